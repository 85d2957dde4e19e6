"""Background work and its progress."""
