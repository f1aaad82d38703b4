"""Practising: keys heard, sessions, passes in time, rounds, and the log of it."""
