"""LUT tables and the compiled kernels that apply them."""
