"""The tables of a new studio."""
