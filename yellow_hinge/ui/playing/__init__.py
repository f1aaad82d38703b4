"""The Playing view: one bar of both hands as it is struck, the patterns and fills it comes from, one's own patterns."""
