"""On stage: a song in the lines that a screen shows, when they turn, and where one is in them."""
