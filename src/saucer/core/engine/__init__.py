"""What a look does: prepared once as a plan, then evaluated, sampled and rendered from it."""
