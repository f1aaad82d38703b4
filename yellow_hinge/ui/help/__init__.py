"""Help in the window: the guide to read and to search, the keys, and what any control is."""
