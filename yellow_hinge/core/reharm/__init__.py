"""Reharmonising: substitutes, routes, the melody as judge."""
