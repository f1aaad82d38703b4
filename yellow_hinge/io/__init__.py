"""Reading and writing files. No Qt."""
