"""Presets: runs of steps kept by name, and the last settings of each kind of step."""
