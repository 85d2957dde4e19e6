"""Round trip through another program: charts, the reading of a recoloured chart, and the verdict on what else got in."""
