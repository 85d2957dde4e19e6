"""Looks: drafts, history, presence."""
