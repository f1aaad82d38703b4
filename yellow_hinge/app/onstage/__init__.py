"""On stage: tonight's songs made ready beside the window, and where one is, kept at every turn."""
