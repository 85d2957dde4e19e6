"""Packs that leave the studio: chosen entries as files in folders, with what is known of them and a page to look at."""
