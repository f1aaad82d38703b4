"""Pure edits: the state of a song, and what makes another one of it."""
