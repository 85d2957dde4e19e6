"""Where Django looks for a backend's wrapper."""

from __future__ import annotations

import select

from django.db.backends.postgresql import base


class DatabaseWrapper(base.DatabaseWrapper):
    def is_usable(self) -> bool:
        """Is the connection that was kept still there? Seen at its socket: a server that has gone has closed it, so that there is something
        to read, and only then it is asked. Asking each time would cost every request a round trip."""
        if self.connection is None or self.connection.closed:
            return False
        socket = select.poll()
        socket.register(self.connection.fileno(), select.POLLIN)
        return not socket.poll(0) or super().is_usable()
