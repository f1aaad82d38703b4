"""MusicXML in and out."""
