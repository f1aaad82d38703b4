"""Colours, letters, shared pictures and small controls that everything on the screen is made of."""
