"""The text of a chart: read with its mistakes, edited, written."""
