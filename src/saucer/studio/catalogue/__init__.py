"""The catalogue: looks, LUTs and presets as one kind of thing, with versions, categories, tags, rights, search and paging."""
