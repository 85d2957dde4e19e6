"""People, roles, sign-in and the audit trail."""
