"""Audio made with NumPy: piano samples, clicks, mixing. No Qt and no device."""
