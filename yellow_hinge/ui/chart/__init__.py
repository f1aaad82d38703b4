"""The chart as text and set out in bars."""
