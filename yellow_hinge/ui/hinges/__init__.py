"""The home view: the strand map and what there is to choose beside it."""
