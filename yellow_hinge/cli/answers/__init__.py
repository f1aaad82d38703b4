"""What the verbs answer, a group of verbs a module."""
