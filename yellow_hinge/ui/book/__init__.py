"""The Songbook room: all songs of some folders, and tonight's set beside them."""
