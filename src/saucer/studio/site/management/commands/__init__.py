"""Commands that need the studio."""
