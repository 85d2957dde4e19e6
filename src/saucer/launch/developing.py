"""`./saucer dev` and `./saucer format`: for whoever changes something."""

from __future__ import annotations

import argparse
import os
import signal
import subprocess

from saucer.launch import install, postgres, processes
from saucer.launch.console import say
from saucer.launch.places import WEB

ANEW = "saucer.studio.site.anew"
BEHIND = 1
"""The page is at the port that was asked for, the server one above it."""


def develop(given: argparse.Namespace) -> int:
    """The page by vite, which puts changes into it while it is open; the server and a worker that start anew when their code changes."""
    page, server = given.port, given.port + BEHIND
    for port in (page, server):
        processes.require_port("127.0.0.1", port)
    install.everything(development=True)
    group = processes.Group()
    with processes.until_told_to_stop() as told, postgres.started():
        try:
            install.manage("prepare")
            install.demo("load")
            group.start("dev-server", ["-m", ANEW, "server", f"127.0.0.1:{server}"])
            group.start("dev-worker", ["-m", ANEW, "worker"])
            vite = subprocess.Popen(
                ["npm", "run", "--silent", "dev", "--", "--port", str(page), "--strictPort"],
                cwd=WEB, env=os.environ | {"SAUCER_API": f"http://127.0.0.1:{server}"}, start_new_session=True,
            )  # fmt: skip
            say(f"\nChange something and look at http://127.0.0.1:{page}/; logs are in var/log. Ctrl-C stops it.")
            install.demo("sign-ins")
            tending = postgres.Tending()

            def tend(now: float) -> None:
                tending(now)
                if vite.poll() is not None:
                    told.append(vite.returncode)

            try:
                processes.run(group, told, tend)
            finally:
                os.killpg(vite.pid, signal.SIGTERM)  # with what npm has started: it does not pass on that it is to end
                vite.wait()
        finally:
            group.end()
    return 0


def write_formatted(given: argparse.Namespace) -> int:
    """Both languages, as the tests want them."""
    install.everything(development=True)
    done = [
        install.run_python(["-m", "ruff", "check", "--fix", "--quiet", "."]),
        install.run_python(["-m", "ruff", "format", "."]),
        subprocess.run(["npm", "run", "--silent", "format"], cwd=WEB, check=False).returncode,
    ]
    return max(done)
