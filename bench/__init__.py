"""Measured comparisons, as ratios within one run: `./saucer bench [--json] [--only NAME]`."""
