"""The Shapes room: what notes are, where else they live, and into the song."""
