"""What is heard and what is struck: playing, live keyboards, the panel of levels."""
