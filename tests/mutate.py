"""Faults put in by hand, one at a time: which of them do the tests find?

`./saucer mutate [--only WORD] [--most N] [--seed S]` changes one place of one function, runs the tests that are of its module, and forgets it again.
Places are comparisons, additions, multiplications, boundaries, truth values, numbers and refusals; which ones are tried is drawn by the seed. Nothing
is written: this process has imported everything, and for each fault a copy of it (a fork) puts the changed code into the function and runs the tests.
Compiled kernels are left out: there a change takes a compilation each. Nothing of this runs in `./saucer test`.
"""

from __future__ import annotations

import argparse
import ast
import contextlib
import importlib
import io
import os
import random
import signal
import sys
import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from types import CodeType, FunctionType
from typing import Any

import django
import pytest
from django.conf import settings

from saucer.core.reading import reader

ROOT = Path(__file__).parents[1]
CORE, STUDIO, TESTS = "saucer/core", "saucer/studio", "tests/studio"
# A fault may make a test wait for what never comes: so many times as long as its tests take without one, and so many seconds at least and at most.
TIMES, LEAST, MOST = 3, 150, 900
# A module or folder, and the tests that are to find what is wrong in it: those of its own name first.
SUBJECTS: dict[str, tuple[str, ...]] = {
    f"{CORE}/look": ("tests/core/test_look.py", "tests/core/test_family.py", "tests/core/test_bundle.py", "tests/core/test_differences.py", "tests/core/test_schema_and_own.py", "tests/core/test_stack.py"),
    f"{CORE}/engine": ("tests/core/test_plan.py", "tests/core/test_rendering.py", "tests/core/test_look.py", "tests/core/test_grade_bake_fingerprint.py", "tests/core/test_junctions_losses.py"),
    f"{CORE}/bake": ("tests/core/test_bake.py", "tests/core/test_grade_bake_fingerprint.py"),
    f"{CORE}/reports": ("tests/core/test_advice.py", "tests/core/test_chain_advice.py", "tests/core/test_junctions_losses.py", "tests/core/test_misfits_match.py", "tests/core/test_scopes.py", "tests/core/test_alike.py", "tests/core/test_character.py"),
    f"{CORE}/lut": ("tests/core/lut", "tests/core/test_health.py"),
    f"{STUDIO}/projects/story": (f"{TESTS}/test_ordering.py", f"{TESTS}/test_shots_told.py", f"{TESTS}/test_patterns.py", f"{TESTS}/test_projects.py", f"{TESTS}/test_shot_history.py", f"{TESTS}/test_seeing.py"),
    f"{STUDIO}/projects/grade": (f"{TESTS}/test_family.py", f"{TESTS}/test_layers_for_many.py", f"{TESTS}/test_shots_told.py", f"{TESTS}/test_looks_on_shots.py", f"{TESTS}/test_many_shots.py", f"{TESTS}/test_hostile_layers.py", f"{TESTS}/test_projects.py", f"{TESTS}/test_footage.py"),
    f"{STUDIO}/projects/check": (f"{TESTS}/test_checking.py", f"{TESTS}/test_layers_for_many.py"),
    f"{STUDIO}/projects/conform": (f"{TESTS}/test_conforming.py", f"{TESTS}/test_timelines.py", f"{TESTS}/test_round_trips.py"),
    f"{STUDIO}/projects/deliver": (f"{TESTS}/test_what_is_delivered.py", f"{TESTS}/test_delivering.py", f"{TESTS}/test_deliveries_going_on.py", f"{TESTS}/test_layers_for_many.py"),
    f"{STUDIO}/projects/changes.py": (f"{TESTS}/test_projects.py", f"{TESTS}/test_looks_on_shots.py"),
    f"{STUDIO}/projects/rules.py": (f"{TESTS}/test_projects.py", f"{TESTS}/test_at_once.py", f"{TESTS}/test_seeing.py"),
    f"{STUDIO}/packing": (f"{TESTS}/test_family.py", f"{TESTS}/test_openapi.py", f"{TESTS}/test_packing.py", f"{TESTS}/test_pipelines.py"),
    f"{STUDIO}/boards": (f"{TESTS}/test_boards.py",),
    f"{STUDIO}/guests": (f"{TESTS}/test_guests.py", f"{TESTS}/test_stamping.py"),
    f"{STUDIO}/preview": (f"{TESTS}/test_family.py", f"{TESTS}/test_kept_previews.py", f"{TESTS}/test_engine.py", f"{TESTS}/test_bench_views.py", f"{TESTS}/test_lanes.py", f"{TESTS}/test_finding.py"),
    f"{STUDIO}/baking": (f"{TESTS}/test_family.py", f"{TESTS}/test_bake_and_packs.py",),
    f"{STUDIO}/luts": (f"{TESTS}/test_luts_and_jobs.py", f"{TESTS}/test_bake_and_packs.py"),
    f"{STUDIO}/presets": (f"{TESTS}/test_presets.py",),
    f"{STUDIO}/looks": (f"{TESTS}/test_bringing_looks.py", f"{TESTS}/test_family.py", f"{TESTS}/test_presence.py", f"{TESTS}/test_looks.py", f"{TESTS}/test_history_and_presence.py"),
    f"{STUDIO}/jobs": (f"{TESTS}/test_luts_and_jobs.py", f"{TESTS}/test_long_work.py", f"{TESTS}/test_clock.py", f"{TESTS}/test_bake_and_packs.py"),
    f"{STUDIO}/people": (f"{TESTS}/test_tries.py", f"{TESTS}/test_people.py", f"{TESTS}/test_accounts.py"),
    f"{STUDIO}/catalogue/find": (f"{TESTS}/test_texts.py", f"{TESTS}/test_columns.py", f"{TESTS}/test_finding.py", f"{TESTS}/test_size.py"),
    f"{STUDIO}/catalogue/order": (f"{TESTS}/test_order.py", f"{TESTS}/test_many_entries.py"),
    f"{STUDIO}/catalogue/review": (f"{TESTS}/test_review.py",),
    f"{STUDIO}/catalogue/rules.py": (f"{TESTS}/test_order.py", f"{TESTS}/test_review.py", f"{TESTS}/test_looks.py", f"{TESTS}/test_rights.py"),
}  # fmt: skip
SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq, ast.Add: ast.Sub,
    ast.Sub: ast.Add, ast.Mult: ast.Div, ast.And: ast.Or, ast.Or: ast.And, ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot,
    ast.IsNot: ast.Is,
}  # fmt: skip


@dataclass(frozen=True)
class Fault:
    """function: with the classes it is in, as `Autosave.send`"""

    module: str
    function: str
    line: int
    words: str
    source: str

    def __str__(self) -> str:
        return f"{self.module.replace('.', '/')}.py:{self.line}  {self.function}  {self.words}"


def _functions(body: list[ast.stmt], inside: str = "") -> Iterator[tuple[str, ast.FunctionDef]]:
    for node in body:
        if isinstance(node, ast.FunctionDef):
            yield inside + node.name, node
        elif isinstance(node, ast.ClassDef):
            yield from _functions(node.body, f"{inside}{node.name}.")


def _places(function: ast.FunctionDef) -> Iterator[tuple[ast.AST, str, int | None, ast.AST]]:
    """A node, its field (and the place in it), and what to put there."""
    for node in ast.walk(ast.Module(function.body, [])):
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
        elif isinstance(node, ast.If) and isinstance(node.body[-1], ast.Raise):
            yield node, "test", None, ast.Constant(False)


def faults_of(file: Path) -> Iterator[Fault]:
    text = file.read_text()
    module = ".".join(file.relative_to(ROOT / "src").with_suffix("").parts)
    for name, function in _functions(ast.parse(text).body):
        for number in range(sum(1 for _ in _places(function))):
            tree = ast.parse(text)
            changed = dict(_functions(tree.body))[name]
            node, field, index, other = list(_places(changed))[number]
            before = ast.unparse(node).partition("\n")[0]
            if index is None:
                setattr(node, field, other)
            else:
                getattr(node, field)[index] = other
            words = f"{before} -> {ast.unparse(node).partition(chr(10))[0]}"[:150]
            yield Fault(module, name, getattr(node, "lineno", function.lineno), words, ast.unparse(ast.fix_missing_locations(tree)))


def _code_in(code: CodeType, parts: list[str]) -> CodeType:
    for part in parts:
        code = next(one for one in code.co_consts if isinstance(one, CodeType) and one.co_name == part)
    return code


def _plain(found: Any) -> FunctionType | None:
    """The function itself, within whatever decorators have put around it."""
    found = getattr(found, "__func__", getattr(found, "fget", found))
    while hasattr(found, "__wrapped__"):
        found = found.__wrapped__
    return found if isinstance(found, FunctionType) else None


def put_in(fault: Fault) -> bool:
    """Everybody who holds the function calls the changed code from now on. False where it is no plain function (a kernel, one with a closure)."""
    found: Any = sys.modules[fault.module]
    for part in fault.function.split("."):
        found = vars(found).get(part)
        if found is None:
            return False
    function = _plain(found)
    if function is None or function.__module__ != fault.module:
        return False
    whole = compile(fault.source, function.__code__.co_filename, "exec", dont_inherit=True)
    code = _code_in(whole, fault.function.split("."))
    if code.co_freevars != function.__code__.co_freevars:
        return False
    function.__code__ = code
    return True


NOT_TRIED = 77


def _try_out(fault: Fault | None, tests: tuple[str, ...], slot: int) -> int:
    """In a fork. 0: the tests pass all the same. slot: of the databases, so that two are tried at once"""
    if fault is not None and not put_in(fault):
        return NOT_TRIED
    reader.inside = True  # files are read here: a reader's own process has the code as it was
    settings.DATABASES["default"]["TEST"]["NAME"] = f"test_mutant_{slot}"
    return int(pytest.main(["-x", "-q", "--create-db", "--timeout", "0", *tests]))


def _begin(run: Callable[[], int]) -> int:
    """The number of a fork that ends with what it gives."""
    sys.stdout.flush()
    child = os.fork()
    if child:
        return child
    quiet = os.open(os.devnull, os.O_WRONLY)
    os.dup2(quiet, 1)
    os.dup2(quiet, 2)
    code = 1
    try:
        code = run()
    finally:
        os._exit(code)


Tests = tuple[str, ...]


def _try_all(
    chosen: Sequence[tuple[Fault | None, Tests]], limits: Mapping[Tests, float]
) -> Iterator[tuple[Fault | None, Tests, int, float]]:
    """Each with how its tests ended and after how many seconds, as they end; as many at once as there are cores.

    limits: seconds, of those tests; what takes longer is taken to be found
    """
    waiting = list(reversed(chosen))
    free = list(range(os.cpu_count() or 1))
    running: dict[int, tuple[Fault | None, Tests, int, float]] = {}
    while waiting or running:
        while waiting and free:
            fault, tests = waiting.pop()
            slot = free.pop()
            running[_begin(lambda one=fault, some=tests, at=slot: _try_out(one, some, at))] = (fault, tests, slot, time.monotonic())
        for child, (fault, tests, slot, began) in list(running.items()):
            if time.monotonic() - began > limits.get(tests, MOST):
                os.kill(child, signal.SIGKILL)
            done, status = os.waitpid(child, os.WNOHANG)
            if done:
                del running[child]
                free.append(slot)
                yield fault, tests, os.waitstatus_to_exitcode(status), time.monotonic() - began
        time.sleep(0.05)


def _wanted(only: str, most: int, seed: str) -> Iterator[tuple[Fault, tuple[str, ...]]]:
    for subject, tests in SUBJECTS.items():
        path = ROOT / "src" / subject
        for file in sorted(path.rglob("*.py")) if path.is_dir() else [path]:
            if only in str(file) and "migrations" not in file.parts and "kernels" not in file.name:
                found = list(faults_of(file))
                for fault in random.Random(f"{seed}{file.name}").sample(found, min(most, len(found))):
                    yield fault, tests


def main() -> int:
    parser = argparse.ArgumentParser(prog="./saucer mutate", description=__doc__)
    parser.add_argument("--only", default="", metavar="WORD", help="paths that hold it")
    parser.add_argument("--most", type=int, default=5, metavar="N", help="faults a file")
    parser.add_argument("--seed", default="", help="which of them")
    given = parser.parse_args()
    django.setup()
    chosen = list(_wanted(given.only, given.most, given.seed))
    for module in {fault.module for fault, _ in chosen}:
        importlib.import_module(module)
    files = sorted({file for _, tests in chosen for file in tests})
    with contextlib.redirect_stdout(io.StringIO()):
        pytest.main(["--collect-only", "-q", *files])  # everything is imported here once, and not in every fork
    limits: dict[Tests, float] = {}
    for _, tests, code, seconds in _try_all([(None, tests) for tests in dict.fromkeys(tests for _, tests in chosen)], {}):
        if code:
            print(f"{' '.join(tests)} fail without a fault ({code})")
            return 2
        limits[tests] = min(MOST, max(LEAST, TIMES * seconds))
    survived, tried = [], 0
    for fault, _, code, _ in _try_all(chosen, limits):
        tried += code != NOT_TRIED
        if code == 0:
            survived.append(fault)
            print(f"survived  {fault}", flush=True)
    print(f"{tried} tried, {len(survived)} survived")
    return 1 if survived else 0


if __name__ == "__main__":
    raise SystemExit(main())
