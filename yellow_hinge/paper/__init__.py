"""Pages painted by Qt, without its widgets: for the screen, printers, PDF, SVG and PNG."""
