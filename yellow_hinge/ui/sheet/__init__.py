"""The Sheet view: the pages that lie on the stand, as they will print, and what they show."""
