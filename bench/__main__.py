"""Run the benches: `./saucer bench [--json] [--only NAME]`. A ratio below the wanted one ends with exit code 1.

`./saucer bench --soak MINUTES`: random dragging on the Bench, and what grows by it.
`./saucer bench --plan DESIGNERS VIEWERS`: how many machines a studio needs.
"""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Iterator

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer.studio.site.settings")

import django

django.setup()

from bench import (  # noqa: E402
    applying,
    clips,
    cube_files,
    dragging,
    load,
    looks,
    lut_files,
    machines,
    making,
    packs,
    previews,
    projects,
    reading,
    shelf,
    wall,
)
from bench.measure import Bench, Result  # noqa: E402
from bench.plan import plan  # noqa: E402
from bench.soak import soak  # noqa: E402
from saucer.core.engine.warm import warm  # noqa: E402

BENCHES: dict[str, Bench] = {
    "apply": applying.run,
    "cube": cube_files.run,
    "file": lut_files.run,
    "bake": lut_files.run,
    "look": looks.run,
    "preview": previews.run,
    "drag": dragging.run,
    "shelf": shelf.run,
    "shelf.previews": wall.run,
    "packs": packs.run,
    "deliver.clip": clips.run,
    "clip.index": clips.indexing,
    "wall.300": projects.walls,
    "shots.put": projects.changes,
    "play": projects.playing,
    "deliver.workers": projects.workers,
    "read": reading.run,
    "memory": reading.run,
    "load": load.run,
    "machines": machines.run,
    "towards": making.run,
    "apart": making.run,
    "stress": making.run,
}


def results(only: str | None) -> Iterator[Result]:
    done: list[Bench] = []
    for prefix, run in BENCHES.items():
        if run not in done and (only is None or only.startswith(prefix) or prefix.startswith(only)):
            done.append(run)
            yield from (result for result in run() if only is None or result.name.startswith(only))


def main() -> int:
    parser = argparse.ArgumentParser(prog="./saucer bench", description=__doc__)
    parser.add_argument("--json", action="store_true")
    parser.add_argument("--only", metavar="NAME", help="names that begin so, e.g. apply.u8")
    parser.add_argument("--soak", type=int, metavar="MINUTES", help="random dragging in the browser; tells what grows")
    parser.add_argument(
        "--plan", type=int, nargs=2, metavar=("DESIGNERS", "VIEWERS"), help="how many machines they need, simulated"
    )
    given = parser.parse_args()
    if given.soak:
        return soak(given.soak)
    if given.plan:
        return plan(*given.plan)
    warm()
    found = []
    # Each row as it comes, also beside the JSON: a whole run takes many minutes.
    rows_to = sys.stderr if given.json else sys.stdout
    print(f"{'name':34} {'ours ms':>9} {'peer ms':>9} {'ratio':>7} {'wanted':>7}  peer", flush=True, file=rows_to)
    for result in results(given.only):
        found.append(result)
        mark = "" if result.ratio >= result.wanted else "  below"
        line = f"{result.name:34} {result.ours_ms:9.2f} {result.peer_ms:9.2f} {result.ratio:7.2f} {result.wanted:7.2f}"
        print(f"{line}  {result.peer}{mark}", flush=True, file=rows_to)
    if given.json:
        rows = {
            r.name: {"ours_ms": r.ours_ms, "peer": r.peer, "peer_ms": r.peer_ms, "ratio": r.ratio, "wanted": r.wanted}
            for r in found
        }
        print(json.dumps(rows, indent=2))
    return 0 if all(result.ratio >= result.wanted for result in found) else 1


if __name__ == "__main__":
    raise SystemExit(main())
