"""A studio's server from the command line: found, fetched from, and brought something by a token."""
