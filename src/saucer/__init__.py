"""Saucer: build, preview, bake and catalogue colour looks."""

__version__ = "0.1.0"
