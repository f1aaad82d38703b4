"""The Takes view: the versions of a song under each other, and the row of passes that mixes them."""
