"""Per-pixel step kinds, one module each: what a LUT can hold."""
