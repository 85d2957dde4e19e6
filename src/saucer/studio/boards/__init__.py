"""Boards: a few entries beside each other on a few pictures, and what the team says of each."""
