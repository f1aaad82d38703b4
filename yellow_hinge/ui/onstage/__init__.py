"""On stage: a screen of its own that turns itself, by a press, or by the clock."""
