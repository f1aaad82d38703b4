"""The Lines room: what the right hand plays over the chords, with reasons."""
