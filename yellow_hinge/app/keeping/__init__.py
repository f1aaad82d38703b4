"""What is kept on disk beside the songs: settings, rescues, versions, a log of faults."""
