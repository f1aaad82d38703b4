"""Engraved staves: how they are written, where their lines end, and how they come onto pages."""
