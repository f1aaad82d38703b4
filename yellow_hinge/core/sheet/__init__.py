"""Sheets for the stand: what is on them, and where it lies on pages in millimetres, without any drawing."""
