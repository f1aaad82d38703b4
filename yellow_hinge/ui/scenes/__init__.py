"""Geometry of the pictures, computed from solutions without Qt; the widgets only paint them."""
