"""Files that ship with the program."""
