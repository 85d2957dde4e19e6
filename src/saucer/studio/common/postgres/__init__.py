"""Django's backend for PostgreSQL, with one thing done otherwise."""
