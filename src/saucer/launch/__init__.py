"""What ./saucer does before anything is installed: standard library only."""
