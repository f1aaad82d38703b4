"""Pure computation: harmony, charts, hand shapes, voice leading. No Qt, no clock, no global state."""
