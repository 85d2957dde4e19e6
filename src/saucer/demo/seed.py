"""A small invented studio finishing two invented productions, The Salt Ferry and Winter Orchard."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from django.db import transaction

from saucer.core.engine.evaluate import sample_look
from saucer.core.engine.plan import prepare
from saucer.core.files.formats.cube import write as write_cube
from saucer.core.look.model import look_from
from saucer.core.lut.table import Lattice, Lut
from saucer.demo.catalogue import PICTURES
from saucer.demo.project import make_project
from saucer.demo.shelf import bring_to, fill_shelf, keep_board
from saucer.studio.baking import rules as baking
from saucer.studio.baking.choices import BakeChoice
from saucer.studio.catalogue.models import VersionState
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.people.models import Person
from saucer.studio.people.studio import mark_begun
from saucer.studio.pictures import sets
from saucer.studio.pictures.models import Picture
from saucer.studio.presets import rules as presets
from saucer.studio.start.beginning import bring_in_picture
from saucer.studio.start.starter import PRESETS as OFFERED_PRESETS

PASSWORD = "porcelain-and-ink"  # noqa: S105  printed by the demo for everybody to read
PEOPLE = (
    ("ilse", "Ilse Harrow", "designer"),
    ("marek", "Marek Sorel", "curator"),
    ("nadia", "Nadia Quill", "viewer"),
    ("otis", "Otis Fenn", "admin"),
)


def _curves(**fields: Any) -> dict[str, Any]:
    return {"kind": "curves"} | fields


S_CURVE = [[0, 0], [0.25, 0.2], [0.75, 0.81], [1, 1]]
INVERSE_S = [[0, 0], [0.25, 0.31], [0.75, 0.7], [1, 1]]
LOOKS: tuple[dict[str, Any], ...] = (
    {
        "name": "Low tide gold",
        "steps": [
            _curves(name="Dusk contrast", note="Contrast first, so that the colours after it are judged on the tones they will have. Black is lifted by a hair and white held back: a print, not a screen.", master=[[0, 0.01], [0.22, 0.17], [0.6, 0.64], [1, 0.98]]),
            _curves(name="Sea-green to gold", note="Red and green bend one way and blue the other: shadows lean to sea-green, lights to gold, and the middle, where faces are, moves least. At 80 %, because at full strength the sky turns green.", red=S_CURVE, green=[[0, 0], [0.25, 0.22], [0.75, 0.79], [1, 1]], blue=[[0, 0.1], [0.32, 0.35], [0.72, 0.62], [1, 0.84]], strength=0.8),
        ],
    },
    {"name": "Salt ferry, morning", "steps": [_curves(master=[[0, 0.04], [0.3, 0.3], [0.8, 0.83], [1, 0.97]], blue=[[0, 0.07], [0.5, 0.53], [1, 0.97]], red=[[0, 0.02], [0.5, 0.48], [1, 0.98]])]},
    {"name": "Thin winter sun", "steps": [_curves(name="Bleach", master=[[0, 0.03], [0.2, 0.12], [0.7, 0.78], [1, 1]]), _curves(name="Frost", blue=[[0, 0.05], [0.4, 0.44], [1, 1]], red=[[0, 0], [0.4, 0.36], [1, 0.97]], strength=0.7)]},
    {"name": "Lamp blue", "steps": [_curves(red=[[0, 0], [0.5, 0.36], [1, 0.9]], green=[[0, 0.01], [0.5, 0.44], [1, 0.93]], blue=[[0, 0.08], [0.5, 0.57], [1, 0.96]])]},
    {"name": "Cross-process dusk", "steps": [_curves(red=S_CURVE, green=S_CURVE, blue=INVERSE_S)]},
    {"name": "Chalk", "steps": [_curves(master=[[0, 0.12], [0.3, 0.36], [0.75, 0.77], [1, 0.93]])]},
    {"name": "Ink and tea", "steps": [_curves(master=[[0, 0], [0.25, 0.13], [0.6, 0.62], [1, 1]], master_on="luma"), _curves(blue=[[0, 0.03], [0.5, 0.43], [1, 0.86]], red=[[0, 0.02], [1, 1]], strength=0.6)]},
    {
        "name": "Ferry lantern",
        "steps": [
            {"kind": "white-balance", "warm": 14, "note": "The whole scene a little towards the lamps, before anything is bent by how warm it is."},
            {"kind": "tone", "contrast": 1.15, "toe": 0.15, "shoulder": -0.35, "note": "Firm middle, but a long shoulder: the lamps keep their colour where a plain contrast would make them white."},
            {
                "kind": "group", "name": "Lamplight", "strength": 0.85,
                "note": "Two steps that mean one thing, with one strength between them: greens and yellows gather round the colour of lamps, shadows go the other way. Turn the group down where a face looks jaundiced.",
                "steps": [
                    {"kind": "hue-bands", "note": "Yellows turn to orange and greens to teal, so that between lamps and night there are two families of hues and not seven.", "bands": [
                        {"centre": 29, "hue": 6, "saturation": 1.1}, {"centre": 66, "hue": -6, "saturation": 1.15}, {"centre": 110, "hue": -18},
                        {"centre": 142, "hue": 20, "saturation": 0.8}, {"centre": 195, "saturation": 0.9}, {"centre": 264, "hue": -14, "saturation": 0.85},
                        {"centre": 300, "saturation": 0.8}, {"centre": 328}]},
                    {"kind": "split-tone", "shadows": {"hue": 235, "amount": 0.025}, "highlights": {"hue": 75, "amount": 0.03}, "overlap": 0.6, "note": "What has no hue of its own, walls and fog, gets one from where it stands: in the light of a lamp or out of it."},
                ],
            },
            {"kind": "saturation", "muted": 0.25, "note": "Only the quiet colours come up: wood and ropes get something of the light, the lamps have enough."},
            {"kind": "halation", "amount": 1.2, "threshold": 0.6, "wide": 0.3, "note": "A red fringe close round the lamps, and three tenths of it far out: the air is wet. Behind the colours, so that it is not split again."},
            {"kind": "vignette", "amount": 0.55, "note": "The eye stays with the lamps. Half a stop in the corners is felt and not seen."},
            {"kind": "grain", "amount": 0.18, "note": "Last, over everything: it keeps the dark gradients from showing bands on eight bits."},
        ],
    },
    {
        "name": "Orchard silver",
        "steps": [
            {"kind": "channel-mix", "monochrome": True, "grey": [0.45, 0.4, 0.15], "strength": 0.92, "note": "Mostly red and green: skin and bark get lighter, the sky darker. A trace of colour is left on purpose, at 92 %."},
            {"kind": "tone", "contrast": 1.3, "brightness": 0.06, "note": "Without colour, contrast is all there is to tell things apart."},
            {"kind": "split-tone", "shadows": {"hue": 260, "amount": 0.02}, "highlights": {"hue": 90, "amount": 0.012}, "note": "The tone of a print: cold in the paper's shadows, a breath of warmth in its whites. Half of this would do on a colour picture."},
            {"kind": "grain", "amount": 0.3, "size": 0.0025, "note": "Coarser than for colour: without hues the eye looks at texture."},
        ],
    },
    {"name": "Print density", "input": "film-log", "output": "film-log", "steps": [_curves(master=[[0, 0], [0.3, 0.24], [0.55, 0.55], [0.8, 0.78], [1, 0.92]], blue=[[0, 0.02], [0.5, 0.48], [1, 0.96]])]},
)  # fmt: skip
FILED = {"Soft skin": "People", "Lamps in rain": "Night", "Base correction": ""}
"""Where the demo has the presets that every new studio is offered."""
PRESETS: tuple[tuple[str, str, str, tuple[dict[str, Any], ...]], ...] = (
    ("Blue hour", "Night", "Cool shadows, warm lights", ({"kind": "white-balance", "warm": -28}, {"kind": "split-tone", "shadows": {"hue": 255, "amount": 0.035}, "highlights": {"hue": 72, "amount": 0.03}})),
    ("Old postcard", "Open air", "Faded, with grain", ({"kind": "levels", "master": {"output_black": 0.07, "output_white": 0.94}}, {"kind": "saturation", "factor": 0.75, "muted": 0.2}, {"kind": "grain", "amount": 0.18, "size": 0.0024})),
    *((name, FILED[name], note, steps) for name, note, steps in OFFERED_PRESETS),
)  # fmt: skip
SETS = {
    "Review": ("Quay, dusk", "Six busts", "Night market", "Table by a window"),
    "People": ("Six busts", "Chart"),
    "Night": ("Night market", "Quay, dusk"),
    "Open air": ("Orchard, low sun", "Hillside, fog", "Quay, dusk"),
}
BAKED = ("Low tide gold", "Lamp blue", "Chalk", "Print density")


def load_demo(say: Callable[[str], None]) -> None:
    """Load what is not there yet; what people changed since is left alone."""
    if Picture.objects.filter(test=True).count() >= len(PICTURES) and Person.objects.filter(username=PEOPLE[0][0]).exists():
        return
    say("Loading the demo studio ...")
    with transaction.atomic():
        mark_begun(None)
        people = {username: _person(username, name, role) for username, name, role in PEOPLE}
        for position, how in enumerate(PICTURES):
            if not Picture.objects.filter(test=True, file_name=how.file).exists():
                bring_in_picture(people["marek"], position, how.offered)
        fill_shelf(people["ilse"], people["marek"])
        for content in reversed(LOOKS):
            draft = looks.create(
                people["ilse"], look_from({"format": "saucer-look", "version": 1, "view": "soft"} | content), category="Ferry film"
            )
            version = looks.save_version(people["ilse"], draft.pk, "First pass")
            if any("note" in step for step in content["steps"]):
                # An exercise, for whoever wants to read why each step is there: viewers see what is published.
                bring_to(VersionState.PUBLISHED, people["ilse"], people["marek"], draft.pk, version.number)
            if content["name"] in BAKED:
                baking.bake_version(people["ilse"], version, BakeChoice(size=33, author="Ilse Harrow"))
        for (file_name, data), category in zip(brought_in(), ("Camera", "Prints/Scanned"), strict=True):
            luts.bring_in(people["ilse"], data, file_name, category=category)
        for name, category, note, steps in PRESETS:
            presets.keep(people["ilse"], name, look_from({"steps": list(steps)}).steps, category, note)
        keep_board(people["ilse"], people["marek"], people["nadia"])
        make_project(people["ilse"], people["marek"], people["nadia"])
        for name, chosen in SETS.items():
            sets.save(people["marek"], name, list(Picture.objects.filter(test=True, name__in=chosen).values_list("pk", flat=True)))


def brought_in() -> list[tuple[str, bytes]]:
    """LUTs as they come from elsewhere: one for a camera's log, and one that was read off a scan, with its grain."""
    camera = look_from(
        {
            "input": "s-log3", "output": "rec709",
            "steps": [{"kind": "convert", "to": "rec709", "rendering": "soft"}, {"kind": "limit", "low": 0, "high": 1}],
        }
    )  # fmt: skip
    print_look = look_from(
        {"steps": [_curves(master=[[0, 0.03], [0.3, 0.24], [0.7, 0.76], [1, 0.95]], blue=[[0, 0.06], [1, 0.9]])]}
    )
    table = sample_look(prepare(print_look), 33).lattice
    assert table is not None
    grainy = table.table + np.random.default_rng(7).normal(scale=0.005, size=table.table.shape)
    scan = Lut(
        lattice=Lattice(np.clip(grainy, 0, 1).astype(np.float32)), title="Old print, scanned", comments=("Rights: for tests only",)
    )
    return [
        ("S-Log3 to Rec709.cube", write_cube(sample_look(prepare(camera), 33).titled("S-Log3 to Rec.709, soft"))),
        ("old-print.cube", write_cube(scan)),
    ]


def _person(username: str, name: str, role: str) -> Person:
    person, made = Person.objects.get_or_create(username=username, defaults={"full_name": name, "role": role})
    if made:
        person.set_password(PASSWORD)
        person.save()
    return person
