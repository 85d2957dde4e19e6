"""What every app stands on: the store of files by their content, refusals, images as responses."""
