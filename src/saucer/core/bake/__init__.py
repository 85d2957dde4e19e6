"""Looks made into LUTs, and how well a LUT does what its look does."""
