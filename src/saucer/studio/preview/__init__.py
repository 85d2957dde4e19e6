"""Pixels for the Bench and the Shelf: looks and entries on pictures, counts, marks, words."""
