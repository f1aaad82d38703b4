"""What the pointer does in every picture: marks, menus, writing in place."""
