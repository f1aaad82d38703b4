"""The player's own data: one folder, one small file an entry, one checked reader."""
