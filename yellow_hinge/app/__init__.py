"""What one open document is and does. No widgets and no Qt."""
