"""What was played becomes what is written: notes in time to chords in bars."""
