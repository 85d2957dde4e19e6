"""Spatial step kinds, one module each: what needs a pixel's place or its neighbours, and so can be in no LUT."""
