"""Other chords, for one chord or the whole song."""
