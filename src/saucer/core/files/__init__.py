"""LUT files: the registry of formats, what the formats share, fitting a LUT to one, zips, guessing what a file is for."""
