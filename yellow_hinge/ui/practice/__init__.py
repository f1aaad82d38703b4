"""The Practice view."""
