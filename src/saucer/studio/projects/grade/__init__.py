"""What lies on shots: put there, stacked, seen, measured by scopes."""
