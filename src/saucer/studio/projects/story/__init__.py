"""The story of a project: its scenes and shots, what they are called, in which order, what is noted of them."""
