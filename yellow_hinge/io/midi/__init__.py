"""Standard MIDI files in and out."""
