"""Chord sheets as text, with words and bars."""
