"""What is asked of the playing: patterns and where they hold, fills, swing, and patterns of the player's own."""
