"""The computation: no Django, no HTTP, no database. Usable alone, as a library and from the command line."""
