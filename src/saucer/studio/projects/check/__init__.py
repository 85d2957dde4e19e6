"""Shots held against each other and against tolerances."""
