"""The same as `tests/mutate.py` for what the web application works by: its store, painter, reader, keys, saving and player.

`python -m tests.mutate_web [--only WORD] [--most N]`. A place is a sign of one line (a comparison, a sum, an "and", a truth value, a number); the line is
written into the file, its test runs, and the file is put back, also when this is broken off.
"""

from __future__ import annotations

import argparse
import random
import re
import subprocess
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

WEB = Path(__file__).parents[1] / "web"
# A file, and the tests that are to find what is wrong in it.
SUBJECTS: dict[str, tuple[str, ...]] = {
    "src/look/store.ts": ("src/look/store.test.ts",),
    "src/look/arrange.ts": ("src/look/arrange.test.ts",),
    "src/look/saving/autosave.ts": ("src/look/saving/autosave.test.ts",),
    "src/look/frames/painter.ts": ("src/look/frames/painter.test.ts",),
    "src/look/frames/reader.ts": ("src/look/frames/reader.test.ts",),
    "src/look/view/view.ts": ("src/look/view/view.test.ts",),
    "src/bench/view/keys.ts": ("src/bench/view/keys.test.tsx",),
    "src/bench/bake/choices.ts": ("src/bench/bake/choices.test.ts",),
    "src/browser/kept.ts": ("src/browser/kept.test.tsx",),
    "src/play/player.ts": ("src/play/player.test.ts",),
    "src/api/latest.ts": ("src/api/latest.test.ts",),
    "src/projects/trims/useTrims.ts": ("src/projects/trims/useTrims.test.tsx",),
}
SWAPS = (
    (r" === ", " !== "), (r" !== ", " === "), (r" && ", " || "), (r" \|\| ", " && "), (r" < ", " <= "), (r" > ", " >= "), (r" <= ", " < "),
    (r" >= ", " > "), (r" \+ ", " - "), (r" - ", " + "), (r"\btrue\b", "false"), (r"\bfalse\b", "true"), (r"(?<=[ (])!(?=[a-z(])", ""),
    (r"(?<=[( ])1(?=[);,])", "2"), (r"(?<=[( ])0(?=[);,])", "1"), (r"^ +if \(.*\) return;$", ""),
)  # fmt: skip
LIMIT = 120


@dataclass(frozen=True)
class Fault:
    file: str
    line: int
    before: str
    after: str


def faults_of(file: str) -> Iterator[Fault]:
    in_type = False
    for number, line in enumerate((WEB / file).read_text().split("\n"), 1):
        plain = line.strip()
        in_type = (in_type or plain.startswith(("export type", "type ", "interface ", "export interface"))) and plain not in (
            "}",
            "};",
        )
        if in_type or plain.startswith(("import ", "//", "*", "/*", "readonly ", "export type")):
            continue
        for pattern, other in SWAPS:
            for found in re.finditer(pattern, line):
                yield Fault(file, number, line, line[: found.start()] + other + line[found.end() :])


def is_found(fault: Fault, tests: tuple[str, ...]) -> bool:
    path = WEB / fault.file
    whole = path.read_text()
    lines = whole.split("\n")
    lines[fault.line - 1] = fault.after
    try:
        path.write_text("\n".join(lines))
        command = ["npx", "--no-install", "vitest", "run", "--bail", "1", *tests]
        return subprocess.run(command, cwd=WEB, capture_output=True, check=False, timeout=LIMIT).returncode != 0
    except subprocess.TimeoutExpired:
        return True
    finally:
        path.write_text(whole)


def main() -> int:
    parser = argparse.ArgumentParser(prog="python -m tests.mutate_web", description=__doc__)
    parser.add_argument("--only", default="", metavar="WORD", help="paths that hold it")
    parser.add_argument("--most", type=int, default=8, metavar="N", help="faults a file")
    parser.add_argument("--seed", default="", help="which of them")
    given = parser.parse_args()
    tried, survived = 0, 0
    for file, tests in SUBJECTS.items():
        if given.only not in file:
            continue
        found = list(faults_of(file))
        for fault in random.Random(given.seed + file).sample(found, min(given.most, len(found))):
            tried += 1
            if not is_found(fault, tests):
                survived += 1
                print(f"survived  {file}:{fault.line}\n  {fault.before.strip()}\n  {fault.after.strip()}", flush=True)
    print(f"{tried} tried, {survived} survived")
    return 1 if survived else 0


if __name__ == "__main__":
    raise SystemExit(main())
