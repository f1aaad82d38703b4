"""Scores as pictures, and sheets as files."""
