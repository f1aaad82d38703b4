"""Yellow Hinge: two-hand voicings for keyboard players who reharmonise songs."""

__version__ = "0.2.0"
CHILD = "--child"  # first word of a process of the program's own, then a module and its words
