"""What Django looks for commands in."""
