"""Deliveries: asked for, fixed, made, given out."""
