"""How the studio runs, for its admins: what takes room, everybody's jobs, whether all is well."""
