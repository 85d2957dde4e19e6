"""LUTs made from pictures: pairs and round trips."""
