"""The command that `pip install .` brings: what needs no server, and `remote`, which speaks to one."""

from __future__ import annotations

import sys
from collections.abc import Sequence


def main(arguments: Sequence[str] | None = None) -> int:
    words = list(sys.argv[1:] if arguments is None else arguments)
    if words[:1] == ["remote"]:
        from saucer.remote import commands as remote

        return remote.main(words[1:])
    if words[:1] == ["apply"] and "--remote" in words:
        from saucer.remote import commands as remote

        return remote.main([word for word in words if word != "--remote"])
    from saucer.core.commands import main as core

    return core.main(words)


if __name__ == "__main__":
    sys.exit(main())
