"""LUTs: baked or brought in."""
