"""The chain that is solved: a stage for every chord, the prices between them, and its cheapest path."""
