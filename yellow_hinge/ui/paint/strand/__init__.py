"""Strands: the hands as lines over the chords, with their heads and words."""
