"""Entries put in order: categories, tags, duplicates, views that are kept, changes of many."""
