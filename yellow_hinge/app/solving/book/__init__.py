"""Many songs: the songbook and its index, sets, and files turned from one format into another."""
