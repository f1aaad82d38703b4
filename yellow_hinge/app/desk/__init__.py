"""The open song: what is seen of it, and what can be done to it."""
