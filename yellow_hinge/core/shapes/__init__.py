"""The catalogue of hand shapes: the data file and the code that places it on the keys."""
