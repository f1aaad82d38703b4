"""What a player asks of the hands, and what holds at a chord."""
