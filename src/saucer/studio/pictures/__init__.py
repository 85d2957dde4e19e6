"""Test pictures and people's own: files, encodings, proxies."""
