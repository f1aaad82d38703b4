"""The song file: its schema, its older versions, the songs that ship."""
