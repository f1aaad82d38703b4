"""What a score has, part by part and bar by bar, before any song is made of it."""
