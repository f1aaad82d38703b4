"""What is found, as tables, text and JSON."""
