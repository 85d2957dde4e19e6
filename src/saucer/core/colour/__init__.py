"""Encodings, primaries, transfer functions, OKLab, adaptation and colour difference."""
