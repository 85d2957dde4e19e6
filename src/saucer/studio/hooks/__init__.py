"""Addresses of the team's programs that are called when something is proposed, published, retired or delivered."""
