"""The kinds of substitutes: a maker or a recipe each, and the routes that chords take."""
