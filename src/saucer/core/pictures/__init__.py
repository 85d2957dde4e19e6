"""Pictures in and out, made smaller, counted."""
