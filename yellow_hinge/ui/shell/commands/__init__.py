"""Commands of the window that belong to no room, with their tables."""
