"""The page that one begins at: one's own things, what waits for one, what is new from the others."""
