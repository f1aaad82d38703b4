"""What the right hand plays over the chords: scales that fit, notes to land on, rails between them, and lines."""
