"""What leaves a project: chosen, named, made in parts, listed and kept with what was in it."""
