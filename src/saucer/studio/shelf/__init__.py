"""The catalogue of looks and LUTs."""
