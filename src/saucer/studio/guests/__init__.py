"""People without an account: links by which they see some things, and what they say of them."""
