"""What a song holds: its form, its takes, the things at its chords, the mix."""
