"""The Shelf of the invented studio after two years: looks for its two films with their families, LUTs, presets, some that do the same."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

from saucer.core.engine.evaluate import sample_look
from saucer.core.engine.plan import prepare
from saucer.core.files.formats.cube import write as write_cube
from saucer.core.look.model import Look, look_from
from saucer.studio.boards import rules as boards
from saucer.studio.catalogue import sharing
from saucer.studio.catalogue.models import Entry, Kind, SeenBy, VersionState
from saucer.studio.catalogue.order import many, views
from saucer.studio.catalogue.review import rules as review
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture

Steps = list[dict[str, Any]]

FAMILIES: tuple[tuple[str, str, tuple[str, ...], Callable[[float], Steps]], ...] = (
    ("Tide", "The Salt Ferry/Day", ("sea", "day"), lambda a: [
        {"kind": "white-balance", "warm": -10 - 14 * a}, {"kind": "tone", "contrast": 0.95 + 0.2 * a},
        {"kind": "split-tone", "shadows": {"hue": 215, "amount": 0.02 + 0.02 * a}, "highlights": {"hue": 80, "amount": 0.012}}]),
    ("Deck lamp", "The Salt Ferry/Night", ("night", "lamps"), lambda a: [
        {"kind": "white-balance", "warm": 8 + 16 * a}, {"kind": "tone", "contrast": 1.1 + 0.15 * a, "toe": 0.1 + 0.2 * a, "shoulder": -0.3},
        {"kind": "saturation", "factor": 1.05 - 0.2 * a}]),
    ("Fog bank", "The Salt Ferry/Fog", ("fog", "soft"), lambda a: [
        {"kind": "levels", "master": {"output_black": 0.04 + 0.08 * a, "output_white": 0.97 - 0.05 * a}},
        {"kind": "saturation", "factor": 0.85 - 0.3 * a}, {"kind": "tone", "contrast": 0.95 - 0.2 * a}]),
    ("Bare branch", "Winter Orchard/Day", ("winter", "day"), lambda a: [
        {"kind": "saturation", "factor": 0.75 - 0.25 * a}, {"kind": "tone", "contrast": 1.15 + 0.25 * a}, {"kind": "white-balance", "warm": -6 - 6 * a}]),
    ("Hearth", "Winter Orchard/Inside", ("inside", "warm light"), lambda a: [
        {"kind": "white-balance", "warm": 14 + 14 * a}, {"kind": "curves", "blue": [[0, 0.02 + 0.03 * a], [0.5, 0.46 - 0.04 * a], [1, 0.94]]},
        {"kind": "saturation", "factor": 1.05 + 0.15 * a}]),
    ("Snow light", "Winter Orchard/Snow", ("winter", "bright"), lambda a: [
        {"kind": "tone", "exposure": 0.15 + 0.25 * a, "shoulder": -0.3}, {"kind": "split-tone", "shadows": {"hue": 250, "amount": 0.02 + 0.02 * a}, "highlights": {"hue": 230, "amount": 0.006}}]),
    ("Silver", "Black and white", ("monochrome",), lambda a: [
        {"kind": "channel-mix", "monochrome": True, "grey": [0.5 - 0.3 * a, 0.4, 0.1 + 0.3 * a]}, {"kind": "tone", "contrast": 1.05 + 0.4 * a}]),
    ("Emulsion", "House/Prints", ("print", "house"), lambda a: [
        {"kind": "curves", "master": [[0, 0.02 + 0.04 * a], [0.3, 0.26], [0.7, 0.74], [1, 0.97 - 0.03 * a]]},
        {"kind": "hue-bands", "bands": [{"centre": 29, "hue": 4 + 4 * a}, {"centre": 66, "saturation": 1.1}, {"centre": 110, "hue": -12 * a}, {"centre": 142, "saturation": 0.85 - 0.15 * a}, {"centre": 195}, {"centre": 264, "hue": -8 * a, "saturation": 0.9}, {"centre": 300}, {"centre": 328}]}]),
    ("Lantern row", "The Salt Ferry/Night", ("night", "market"), lambda a: [
        {"kind": "tone", "contrast": 1.05 + 0.25 * a, "shoulder": -0.4}, {"kind": "saturation", "factor": 1.1 + 0.25 * a},
        {"kind": "split-tone", "shadows": {"hue": 205, "amount": 0.015 + 0.02 * a}, "highlights": {"hue": 45, "amount": 0.01 + 0.012 * a}}]),
    ("Glass", "House/Clean", ("clean", "house"), lambda a: [
        {"kind": "levels", "master": {"output_black": 0.01, "output_white": 1.0}}, {"kind": "tone", "contrast": 1.02 + 0.1 * a},
        {"kind": "saturation", "factor": 1.02 + 0.06 * a, "muted": 0.1 * a}]),
    ("Vault", "House/Grading log", ("log", "house"), lambda a: [
        {"kind": "cdl", "slope": [1.02 + 0.06 * a, 1.0, 0.98 - 0.05 * a], "offset": [0.0, 0.0, 0.004 + 0.006 * a], "power": [1.0, 1.0 + 0.03 * a, 1.0]},
        {"kind": "saturation", "factor": 1.0 - 0.15 * a}]),
)  # fmt: skip
"""What a look is called, where it is filed, its tags, and its steps by how far it goes, 0..1."""
ENDS = {"Vault": "acescct"}
"""Looks that are not for display pictures: what they expect and give."""
RECIPE = 0.4
MEMBERS = (("thin", 0.0), ("full", 0.75), ("heavy", 1.0))
"""What the others of a look's family are called, and how far they go."""
STATES = {
    "Fog bank": VersionState.PROPOSED, "Hearth": VersionState.PROPOSED, "Vault": VersionState.SENT_BACK,
    "Silver": VersionState.DRAFT, "Emulsion": VersionState.DRAFT,
}  # fmt: skip
"""Of those that are not published."""
RIGHTS = (("In-house", "yes", None), ("In-house", "yes", None), ("For The Salt Ferry only", "no", None), ("", "unknown", None))
BOUGHT = (
    ("Tide", 0.4, "tide-from-the-lab.cube", "Laboratory package, spring", "One year from delivery", date(2026, 12, 20)),
    ("Hearth", 0.4, "hearth-33.cube", "Sent by the colour house", "Seat licence, one studio", date(2026, 6, 1)),
    ("Emulsion", 0.45, "emulsion-print.cube", "Sent by the colour house", "", None),
    ("Silver", 0.4, "silver-ortho.cube", "Old drive, found in the archive", "", None),
)
"""LUTs from elsewhere that do what a look of the studio does: family, how far, file, source, licence, until when."""


def fill_shelf(ilse: Person, marek: Person) -> None:
    """Looks with their families, states, tags and rights, and LUTs of which some do the same as they."""
    for number, (name, category, tags, make) in enumerate(FAMILIES):
        licence, may_pass_on, until = RIGHTS[number % len(RIGHTS)]
        look = _look(name, make)
        draft = looks.create(
            ilse,
            look.model_copy(update={"family": ()}) if number % 3 == 0 else look,
            category=category,
            licence=licence,
            may_pass_on=may_pass_on,
            pass_on_until=until,
            note=f"{name} for the tests of this autumn",
        )
        if number % 3 == 0:
            looks.save_version(ilse, draft.pk, "First try")
            looks.save_draft(ilse, draft.pk, look, draft.revision)
        version = looks.save_version(ilse, draft.pk, "For the tests")
        many.change_one(ilse, Kind.LOOK, draft.pk, {}, {}, tags, ())
        bring_to(STATES.get(name, VersionState.PUBLISHED), ilse, marek, draft.pk, version.number)
    families = {family: make for family, _, _, make in FAMILIES}
    for family, amount, file_name, source, licence, until in BOUGHT:
        table = sample_look(prepare(look_from({"steps": families[family](amount)})), 33)
        entry = luts.bring_in(
            ilse, write_cube(table.titled(file_name.removesuffix(".cube"))), file_name, category="House/Bought", source=source,
            licence=licence, pass_on_until=until, may_pass_on="yes" if until else "unknown", expects="srgb", gives="srgb",
        )  # fmt: skip
        many.change_one(ilse, Kind.LUT, entry.pk, {}, {}, ("bought",), ())
    drafts = {one.name: one.pk for one in Entry.objects.filter(kind=Kind.LOOK, name__in=["Emulsion", "Silver"])}
    sharing.share(ilse, Kind.LOOK, drafts["Emulsion"], SeenBy.OWNER)
    sharing.share(ilse, Kind.LOOK, drafts["Silver"], SeenBy.CHOSEN, people=[marek.username])


def _look(name: str, make: Callable[[float], Steps]) -> Look:
    """The recipe, and how far each of its family goes beside it."""
    ends = ENDS.get(name, "srgb")
    recipe = [step | {"id": f"step {number}"} for number, step in enumerate(make(RECIPE), 1)]
    family = [{"name": word, "settings": _beside(recipe, make(amount))} for word, amount in MEMBERS]
    return look_from({"name": name, "input": ends, "output": ends, "view": "soft", "steps": recipe, "family": family})


def _beside(recipe: Steps, steps: Steps) -> dict[str, dict[str, Any]]:
    """The settings of these steps that differ from the recipe's."""
    pairs = zip(recipe, steps, strict=True)
    own = {one["id"]: {field: value for field, value in other.items() if one[field] != value} for one, other in pairs}
    return {step: fields for step, fields in own.items() if fields}


def keep_board(ilse: Person, marek: Person, nadia: Person) -> None:
    """Evenings on four pictures, with what three people say of them; and states of the wall that the team comes back to."""
    wanted = ("Deck lamp", "Lantern row", "Hearth", "Tide", "Fog bank")
    found = {entry.name: entry.pk for entry in Entry.objects.filter(name__in=wanted, kind=Kind.LOOK, deleted=None)}
    shown = list(Picture.objects.filter(test=True, deleted=None).values_list("pk", flat=True)[:4])
    board = boards.keep(ilse, "Evenings, first choice", [found[name] for name in wanted], shown)
    said = (
        (ilse, "Deck lamp", "yes", ""), (marek, "Deck lamp", "yes", "Holds on the quay and inside"),
        (nadia, "Lantern row", "maybe", "The market is lovely, the faces are not"), (marek, "Tide", "no", "Too cold for evenings"),
        (nadia, "Hearth", "yes", ""), (ilse, "Fog bank", "no", ""),
    )  # fmt: skip
    for person, name, choice, note in said:
        boards.judge(person, board.pk, found[name], choice, note)
    views.keep(ilse, "Published, warmest first", "state=published&order=warmer", shared=True)
    views.keep(ilse, "Night and lamps", "tag=night", shared=True)
    views.keep(marek, "Rights to settle", "rights=unknown", shared=False)


def bring_to(state: VersionState, ilse: Person, marek: Person, pk: int, number: int) -> None:
    if state == VersionState.DRAFT:
        return
    review.move(ilse, Kind.LOOK, pk, number, VersionState.PROPOSED, "Ready to be looked at on the people set")
    if state == VersionState.PUBLISHED:
        review.move(marek, Kind.LOOK, pk, number, VersionState.PUBLISHED, "Good on all of them")
    elif state == VersionState.SENT_BACK:
        review.move(marek, Kind.LOOK, pk, number, VersionState.SENT_BACK, "Skin goes too far on Six busts")
