"""Looks: drafts, versions, previews."""
