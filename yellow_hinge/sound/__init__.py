"""Audio made with NumPy: piano, bass, drums and clicks, mixed from a performance. No Qt and no device."""
