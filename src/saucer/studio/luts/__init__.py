"""LUTs: brought in, read from packs, charts and pairs, worked on with tools, looked at for their health."""
