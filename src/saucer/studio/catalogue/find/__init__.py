"""Entries looked for: what is wanted, listed, counted."""
