"""Yellow Hinge: two-hand voicings for keyboard players who reharmonise songs."""

__version__ = "0.1.0"
