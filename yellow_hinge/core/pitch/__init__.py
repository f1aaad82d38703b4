"""Notes and keys: how pitches are named, spelled and moved."""
