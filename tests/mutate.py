"""Faults put in by hand, one at a time: which of them do the tests find?

`python -m tests.mutate [--only WORD] [--most N]` changes one place of one module, runs the tests that are of it, and puts the place back. Places are
comparisons, additions, multiplications, boundaries, truth values and numbers; which ones are tried is drawn by a fixed seed. Compiled kernels are left
out: there a change takes a compilation each. Nothing of this runs in `./saucer test`.
"""

from __future__ import annotations

import argparse
import ast
import random
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
CORE = ROOT / "src" / "saucer" / "core"
STUDIO = ROOT / "src" / "saucer" / "studio"
# A module or folder, and the tests that are to find what is wrong in it.
SUBJECTS: dict[Path, tuple[str, ...]] = {
    CORE / "look": ("tests/core/test_look.py", "tests/core/test_bundle.py", "tests/core/test_differences.py", "tests/core/test_schema_and_own.py"),
    CORE / "engine": ("tests/core/test_rendering.py", "tests/core/test_look.py", "tests/core/test_grade_bake_fingerprint.py", "tests/core/test_junctions_losses.py"),
    CORE / "bake": ("tests/core/test_bake.py", "tests/core/test_grade_bake_fingerprint.py"),
    CORE / "reports": ("tests/core/test_advice.py", "tests/core/test_junctions_losses.py", "tests/core/test_grade_bake_fingerprint.py"),
    STUDIO / "catalogue" / "listing.py": ("tests/studio/test_size.py",),
    STUDIO / "catalogue" / "rules.py": ("tests/studio",),
    STUDIO / "looks" / "rules.py": ("tests/studio/test_looks.py", "tests/studio/test_history_and_presence.py"),
    STUDIO / "jobs" / "rules.py": ("tests/studio/test_luts_and_jobs.py", "tests/studio/test_bake_and_packs.py"),
    STUDIO / "people": ("tests/studio/test_people.py", "tests/studio/test_accounts.py"),
}  # fmt: skip
SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq, ast.Add: ast.Sub,
    ast.Sub: ast.Add, ast.Mult: ast.Div, ast.And: ast.Or, ast.Or: ast.And, ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot,
    ast.IsNot: ast.Is,
}  # fmt: skip


@dataclass(frozen=True)
class Fault:
    file: Path
    line: int
    words: str
    text: str


def _places(tree: ast.Module) -> Iterator[tuple[ast.AST, str, int | None, ast.AST]]:
    """A node, its field (and the place in it), and what to put there."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Compare):
            for index, sign in enumerate(node.ops):
                if type(sign) in SWAPS:
                    yield node, "ops", index, SWAPS[type(sign)]()
        elif isinstance(node, ast.BinOp | ast.BoolOp) and type(node.op) in SWAPS:
            yield node, "op", None, SWAPS[type(node.op)]()
        elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
            yield node, "op", None, ast.UAdd()
        elif isinstance(node, ast.Call):
            for index, argument in enumerate(node.args):
                if isinstance(argument, ast.Constant) and type(argument.value) in (int, float):
                    yield node, "args", index, ast.Constant(argument.value + 1)
        elif isinstance(node, ast.Return) and isinstance(node.value, ast.Constant) and isinstance(node.value.value, bool):
            yield node, "value", None, ast.Constant(not node.value.value)


def faults_of(file: Path) -> Iterator[Fault]:
    source = file.read_text()
    count = sum(1 for _ in _places(ast.parse(source)))
    for number in range(count):
        tree = ast.parse(source)
        node, field, index, other = list(_places(tree))[number]
        before = ast.unparse(node)
        if index is None:
            setattr(node, field, other)
        else:
            getattr(node, field)[index] = other
        yield Fault(file, node.lineno, f"{before} -> {ast.unparse(node)}"[:150], ast.unparse(tree))


def is_found(fault: Fault, tests: tuple[str, ...]) -> bool:
    source = fault.file.read_text()
    try:
        fault.file.write_text(fault.text)
        done = subprocess.run(
            [sys.executable, "-m", "pytest", "-x", "-q", "-n", "2", *tests], cwd=ROOT, capture_output=True, check=False, timeout=600
        )
        return done.returncode != 0
    except subprocess.TimeoutExpired:
        return True
    finally:
        fault.file.write_text(source)


def main() -> int:
    parser = argparse.ArgumentParser(prog="python -m tests.mutate", description=__doc__)
    parser.add_argument("--only", default="", metavar="WORD", help="paths that hold it")
    parser.add_argument("--most", type=int, default=5, metavar="N", help="faults a file")
    given = parser.parse_args()
    tried, survived = 0, []
    for subject, tests in SUBJECTS.items():
        for file in sorted(subject.rglob("*.py")) if subject.is_dir() else [subject]:
            if given.only not in str(file) or "migrations" in file.parts:
                continue
            found = list(faults_of(file))
            for fault in random.Random(file.name).sample(found, min(given.most, len(found))):
                tried += 1
                if not is_found(fault, tests):
                    survived.append(fault)
                    print(f"survived  {file.relative_to(ROOT)}:{fault.line}  {fault.words}", flush=True)
    print(f"{tried} tried, {len(survived)} survived")
    return 1 if survived else 0


if __name__ == "__main__":
    raise SystemExit(main())
