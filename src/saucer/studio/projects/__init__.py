"""Projects: shots in scenes, and which looks lie on them."""
