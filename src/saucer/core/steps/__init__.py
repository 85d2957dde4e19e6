"""What a look is made of: the registry of step kinds, their parameters, and one module a kind in pixel/ and spatial/."""
