"""Solving beside the window: the newest question is answered, in threads of their own."""
