"""Chords: what a symbol says, what notes are called, which key some chords are in."""
