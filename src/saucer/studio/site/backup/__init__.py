"""Backups: the database and the store of one moment, made while everything runs, put back elsewhere, read through."""
