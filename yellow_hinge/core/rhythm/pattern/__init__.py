"""Patterns as data, how they feel, and how one is fitted to a chord in any meter."""
