"""Timelines of other programs, in and out, and the shots that come of them."""
