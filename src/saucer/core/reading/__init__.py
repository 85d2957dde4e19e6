"""The room in which whatever a person gave is read: processes of their own, with limits, so that a file harms nobody."""
