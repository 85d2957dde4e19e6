"""Where a look breaks: over a set of pictures, along ramps of 10 bits, and as a LUT of each size."""
