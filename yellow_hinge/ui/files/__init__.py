"""The song's way to and from the disk, to paper and to printers, with the player's answers."""
