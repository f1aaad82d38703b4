"""The window: its parts put together, header, rail, command box, and how it starts."""
