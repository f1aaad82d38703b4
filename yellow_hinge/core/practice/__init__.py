"""Practice: judging what is played, choosing what comes next, drills and questions."""
