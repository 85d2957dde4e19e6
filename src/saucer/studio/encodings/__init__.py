"""Encodings: the shipped ones and the team's own."""
