"""Which tests a change can reach: `./saucer test --changed` runs these and no others.

A test is reached by a module that it imports, or that something it imports does; and by an app whose addresses stand in its text, or in that of what
it imports. Where neither tells (settings, what is installed, files that are read), everything is taken.
"""

from __future__ import annotations

import ast
import re
import subprocess
from collections.abc import Iterable, Iterator
from pathlib import Path

import grimp

ROOT = Path(__file__).parents[1]
API = ROOT / "src" / "saucer" / "studio" / "site" / "api.py"
# A change of one of these can be felt anywhere.
EVERYTHING = (
    "pyproject.toml",
    "requirements/",
    "tests/conftest.py",
    "tests/studio/conftest.py",
    "src/saucer/studio/site/settings.py",
)
NOT_BY_PYTEST = ("docs/", "web/", "bench/", "fuzz/", "README.md", "CHANGELOG.md", "CONTRIBUTING.md", ".ci/", "tests/browser/")


def changed_files() -> list[str]:
    """Not yet in a commit; where everything is, those of the last one. Paths from the top of the checkout."""

    def told(*arguments: str) -> list[str]:
        done = subprocess.run(["git", *arguments], cwd=ROOT, capture_output=True, text=True, check=True)
        return done.stdout.splitlines()

    found = told("diff", "--name-only", "HEAD") + told("ls-files", "--others", "--exclude-standard")
    return found or told("diff", "--name-only", "HEAD~1", "HEAD")


def module_of(path: str) -> str | None:
    """`src/saucer/core/errors.py` is saucer.core.errors; None for what is no module of ours."""
    parts = Path(path.removeprefix("src/")).with_suffix("").parts
    if not path.endswith(".py") or parts[0] not in ("saucer", "tests"):
        return None
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


def _addresses(module: str) -> set[str]:
    """Beginnings of the addresses that a module of the API answers, from its decorators: `@router.get("/tags/{pk}")` begins with /tags."""
    text = (ROOT / "src" / module.replace(".", "/")).with_suffix(".py").read_text()
    return {f"/{found}" for found in re.findall(r'@\w+\.(?:get|post|put|patch|delete)\(\s*"/([a-z-]+)', text)}


def apps_by_prefix() -> dict[str, set[str]]:
    """Where an address begins, and the modules that answer there, as site/api.py puts them together."""
    tree = ast.parse(API.read_text())
    modules = {
        alias.asname or alias.name: node.module
        for node in ast.walk(tree)
        if isinstance(node, ast.ImportFrom) and node.module and node.module.startswith("saucer")
        for alias in node.names
    }
    found: dict[str, set[str]] = {}
    for pair in (node.elts for node in ast.walk(tree) if isinstance(node, ast.Tuple) and len(node.elts) == 2):
        prefix, router = pair
        if (
            isinstance(prefix, ast.Constant)
            and isinstance(prefix.value, str)
            and isinstance(router, ast.Name)
            and router.id in modules
        ):
            for beginning in [prefix.value] if prefix.value else _addresses(modules[router.id]):
                found.setdefault(beginning, set()).add(modules[router.id])
    return found


def _files_of_tests() -> Iterator[tuple[str, Path]]:
    for file in sorted((ROOT / "tests").rglob("*.py")):
        if module := module_of(str(file.relative_to(ROOT))):
            yield module, file


def imports() -> grimp.ImportGraph:
    """What imports what, with imports more for what a test's text names: addresses of the API, and modules that it starts as programs."""
    graph = grimp.build_graph("saucer", "tests", cache_dir=None)
    for kind in graph.find_descendants("saucer.core.steps"):  # found by the registry by their folder
        graph.add_import(importer="saucer.core.steps.kinds", imported=kind)
    apps = apps_by_prefix()
    for module, file in _files_of_tests():
        text = file.read_text()
        named = {app for prefix, some in apps.items() if f'"{prefix}' in text or f"/api{prefix}" in text for app in some}
        named |= set(re.findall(r"saucer(?:\.[a-z_]+)+", text)) & graph.modules
        for other in named - {module}:
            graph.add_import(importer=module, imported=other)
    return graph


def tests_reached(changed: Iterable[str]) -> list[str]:
    """Paths of test files, sorted; all of them as `tests` where that is not to be told."""
    graph = imports()
    reached: set[str] = set()
    for path in changed:
        if path.startswith(NOT_BY_PYTEST):
            continue
        module = module_of(path)
        if path.startswith(EVERYTHING) or module is None or (module not in graph.modules and (ROOT / path).exists()):
            return ["tests"]
        if module in graph.modules:
            reached |= {module} | graph.find_downstream_modules(module)
    found = (f"{name.replace('.', '/')}.py" for name in reached if name.rpartition(".")[2].startswith("test_"))
    return sorted(path for path in found if not path.startswith("tests/browser/"))


if __name__ == "__main__":
    print("\n".join(tests_reached(changed_files())))
