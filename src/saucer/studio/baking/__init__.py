"""Baking: a version as LUT files, and how well each will do before it is baked."""
