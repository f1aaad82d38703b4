"""A song as it is written, the road through it and the time of its chords."""
