"""Saucer: build, preview, bake and catalogue colour looks."""

__version__ = "0.2.0"
