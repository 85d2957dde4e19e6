"""The commands of ./saucer."""

from __future__ import annotations

import argparse
import ipaddress
import subprocess
import sys
import time
from collections.abc import Callable, Sequence

from saucer import __version__
from saucer.launch import developing, install, postgres, processes
from saucer.launch.checks import Checks
from saucer.launch.console import Stop, complain, say
from saucer.launch.places import ROOT, WEB, load_options, setting

CORE = (
    "bake", "apply", "inspect", "convert", "tool", "chart", "pair", "standin", "losses", "stress", "take-apart", "towards", "encodings",
    "schema",
)  # fmt: skip
REMOTE = "remote"
"""Of a server elsewhere: it needs none here."""
DEV_PORT = 8410


def _demo(given: argparse.Namespace) -> int:
    return _serve(given, demo=True)


def _serve(given: argparse.Namespace, demo: bool = False, worker: bool = True) -> int:
    began = time.monotonic()
    processes.require_port(given.address, given.port)
    install.everything(development=False)
    install.kernels()
    group = processes.Group()
    with processes.until_told_to_stop() as told, postgres.started():
        try:
            # Who comes first is told how before the page is there: each process that loads the studio takes seconds.
            install.manage("prepare", *([] if demo else ["--then", "first", f"http://{given.address}:{given.port}"]))
            if demo and not told:
                install.demo("load")
            if not told:
                processes.begin_counting()
                group.start("server", processes.server_arguments(given.port, given.address))
                group.start("worker", processes.worker_arguments(), gives_way=True)
                processes.wait_until_up(group, given.port, given.address)
                say(
                    f"\nSaucer is at http://{given.address}:{given.port}/ (ready in {time.monotonic() - began:.1f} s). Ctrl-C stops it."
                )
                if demo:
                    install.demo("sign-ins")
            processes.run(group, told, postgres.Tending())
        finally:
            group.end()
    return 0


def _web(given: argparse.Namespace) -> int:
    """For supervisors: answers and nothing else, of a studio whose database is up to date."""
    processes.require_port(given.address, given.port)
    install.everything(development=False)
    install.kernels()
    group = processes.Group()
    with processes.until_told_to_stop() as told, postgres.started():
        try:
            install.manage("prepare", "--check")
            processes.begin_counting()
            group.start("server", processes.server_arguments(given.port, given.address))
            processes.wait_until_up(group, given.port, given.address)
            say(f"The server is at http://{given.address}:{given.port}/. Ctrl-C stops it.")
            processes.run(group, told, postgres.Tending())
        finally:
            group.end()
    return 0


def _worker(given: argparse.Namespace) -> int:
    install.everything(development=False)
    install.kernels()
    group = processes.Group()
    with processes.until_told_to_stop() as told, postgres.started():
        try:
            install.manage("prepare", "--check")
            group.start("worker", processes.worker_arguments(), gives_way=True)
            say("The worker is running. Ctrl-C stops it.")
            processes.run(group, told, postgres.Tending())
        finally:
            group.end()
    return 0


def _setup(given: argparse.Namespace) -> int:
    install.everything(development=given.development)
    if not given.only_install:
        with postgres.started():
            install.manage("prepare")
    say("Ready: ./saucer demo, ./saucer serve, ./saucer test")
    return 0


def _test(given: argparse.Namespace) -> int:
    checks = Checks(given.arguments)
    install.everything(development=True, meanwhile=checks.begin_with_the_page)
    with postgres.started():
        return checks.run()


def _mutate(given: argparse.Namespace) -> int:
    install.everything(development=True)
    with postgres.started():
        return install.run_python(
            ["-m", "tests.mutate", *given.arguments],
            DJANGO_ALLOW_ASYNC_UNSAFE="true",
            SAUCER_TESTING="1",
            PYTHONPATH=f"{ROOT / 'src'}:{ROOT}",
            DJANGO_SETTINGS_MODULE="saucer.studio.site.settings",
        )


def _bench(given: argparse.Namespace) -> int:
    install.everything(development=True)
    install.kernels()
    with postgres.started(), postgres.beside("bench"):
        install.manage("prepare")
        install.demo("load")
        return install.run_python(["-m", "bench", *given.arguments], PYTHONPATH=f"{ROOT / 'src'}:{ROOT}")


def _migrate(given: argparse.Namespace) -> int:
    """Brings the database up to date; with --plan it only says what it would do."""
    install.everything(development=False)
    with postgres.started():
        return install.run_python(["-m", "saucer.studio", "prepare", *(["--plan"] if given.plan else [])])


def _doctor(given: argparse.Namespace) -> int:
    """Everything that can be told without changing anything."""
    install.everything(development=False)
    with postgres.started():
        return install.run_python(["-m", "saucer.studio", "doctor"])


def _unprepared(*words: str) -> Callable[[argparse.Namespace], int]:
    """A command of the studio that leaves its database as it is."""

    def run(given: argparse.Namespace) -> int:
        install.everything(development=False)
        with postgres.started():
            return install.run_python(["-m", "saucer.studio", *words, *given.arguments])

    return run


def _managed(*words: str) -> Callable[[argparse.Namespace], int]:
    """A command of the studio that needs its database."""

    def run(given: argparse.Namespace) -> int:
        install.everything(development=False)
        with postgres.started():
            return install.run_python(["-m", "saucer.studio", "prepare", "--then", *words, *given.arguments])

    return run


def _generate(given: argparse.Namespace) -> int:
    """From code alone, but for the tables of a new studio, which are read from an empty database that went through the migrations."""
    install.everything(development=True)
    with postgres.started(), postgres.beside("tables"):
        done = install.run_python(["-m", "saucer.studio", "generate"])
    return done or subprocess.run(["npm", "run", "--silent", "types"], cwd=WEB, check=False).returncode


def _shots(given: argparse.Namespace) -> int:
    install.everything(development=True)
    with postgres.started():
        # The database stays until the next run: pages that are open at the end hold connections to it, and so are not closed in order.
        settings = ["--reuse-db", "--create-db", "-W", "ignore::pytest.PytestUnraisableExceptionWarning"]
        return install.run_python(["-m", "pytest", "-q", *settings, "tests/browser/shots.py", *given.arguments])


def _address(text: str) -> str:
    try:
        ipaddress.ip_address(text)
    except ValueError:
        raise argparse.ArgumentTypeError(
            f'"{text}" is no address; use one of this machine, such as 127.0.0.1, or 0.0.0.0 for all of them'
        ) from None
    return text


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./saucer", description="Build, preview, bake and catalogue colour looks.")
    parser.add_argument("--version", action="version", version=f"saucer {__version__}")
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")

    def add(name: str, run: Callable[[argparse.Namespace], int], text: str) -> argparse.ArgumentParser:
        command = commands.add_parser(name, help=text, description=text)
        command.set_defaults(run=run)
        return command

    served: tuple[tuple[str, Callable[[argparse.Namespace], int], str], ...] = (
        ("demo", _demo, "start everything with the demo studio"),
        ("serve", _serve, "start the server and the worker"),
        ("web", _web, "start the server alone, for a supervisor; the database has to be up to date"),
    )
    for name, run, text in served:
        command = add(name, run, text)
        command.add_argument("--port", type=int, default=setting("PORT"))
        command.add_argument(
            "--address",
            type=_address,
            default=setting("ADDRESS"),
            help="where to listen; 0.0.0.0: everywhere",
        )
    add("dev", developing.develop, "start everything for whoever changes it: changes are seen at once").add_argument(
        "--port", type=int, default=DEV_PORT
    )
    add("worker", _worker, "start one more worker")
    add("migrate", _migrate, "bring the database up to date").add_argument(
        "--plan", action="store_true", help="only say what would be done, and to how many rows"
    )
    add("doctor", _doctor, "look whether all is well; ends with 1 where something is wrong")
    setup = add("setup", _setup, "install and build, and make the database; start nothing")
    setup.add_argument("--development", action="store_true", help="also what tests need")
    setup.add_argument("--only-install", action="store_true", help="leave the database alone, as for an image")
    others: tuple[tuple[str, Callable[[argparse.Namespace], int], str], ...] = (
        (
            "test",
            _test,
            "all checks and tests; --changed: what a change can reach; --long: more of what is random; others: pytest with them",
        ),
        ("mutate", _mutate, "put faults in, one at a time; tell which of them no test finds"),
        ("bench", _bench, "measure, as ratios against peers"),
        ("shots", _shots, "take the pictures in docs/screenshots again"),
        ("people", _managed("people"), "accounts: add NAME --role R, list, role, password, off, on"),
        ("sweep", _managed("sweep"), "take away what was deleted 30 days ago; --dry-run tells only"),
        (
            "check",
            _managed("check_store"),
            "read every stored file; tell what is damaged or missing; --mend makes again what can be",
        ),
        ("backup", _unprepared("backup"), "copy everything of the studio into a folder, while it runs: backup FOLDER"),
        ("restore", _unprepared("restore"), "put a backup into an empty studio: restore FOLDER [NAME]"),
        ("verify", _unprepared("verify"), "read a backup through: verify FOLDER [NAME]"),
        ("project", _managed("project"), "projects: list; export NAME -o FOLDER --stills png --clips h264 --luts cube ..."),
        ("generate", _generate, "write everything that is made from code"),
        ("format", developing.write_formatted, "format the code of both languages"),
    )
    for name, run, text in others:
        add(name, run, text)
    for name in (*CORE, REMOTE):
        commands.add_parser(name, help=f"without a server; see ./saucer {name} --help", add_help=False)
    return parser


PASSED_ON = ("test", "mutate", "bench", "shots", "people", "project", "sweep", "check", "backup", "restore", "verify")


OWN_HELP = ("people", "project", "backup", "restore", "verify")
"""Of these commands the studio's own says what they take."""


def main(arguments: Sequence[str] | None = None) -> int:
    words = list(sys.argv[1:] if arguments is None else arguments)
    try:
        load_options()
        if words and words[0] in (*CORE, REMOTE):
            install.core_only()
            return install.run_python(["-m", "saucer.command", *words], replace=True)
        passed_on = (
            words[1:]
            if words and words[0] in PASSED_ON and (words[0] in OWN_HELP or words[1:2] not in (["-h"], ["--help"]))
            else []
        )
        given = _parser().parse_args(words[: len(words) - len(passed_on)])
        given.arguments = passed_on
        run: Callable[[argparse.Namespace], int] = given.run
        return run(given)
    except Stop as stop:
        complain(str(stop))
        return 1
    except KeyboardInterrupt:
        return 130
