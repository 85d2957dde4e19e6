"""Large files on their way in: sent in parts that survive a lost connection, then put where a form's file would be."""
