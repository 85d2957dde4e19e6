"""The look as it is written down: its model, its files, walking and comparing it."""
