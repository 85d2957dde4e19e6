"""Changes of many entries cost a fixed number of queries, however many they are for; so do boards of many, and what a pack of many would hold."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from saucer.core.look.model import look_from
from saucer.studio.boards import rules as boards
from saucer.studio.boards.models import Board
from saucer.studio.catalogue.models import Entry, Review, VersionState
from saucer.studio.catalogue.order import many
from saucer.studio.catalogue.order.many import Change
from saucer.studio.catalogue.review import rules as review
from saucer.studio.looks import rules as looks
from saucer.studio.packing import rules as packing
from saucer.studio.packing.manifest import LeftOut
from tests.make import WARM

pytestmark = pytest.mark.django_db
FEW, MANY = 4, 24
CHANGES = {
    "category": Change(category="Film/Night"), "licence": Change(licence="Ours"), "rights": Change(may_pass_on="yes", pass_on_until="2027-01-01"),
    "tags": Change(add_tags=("Night", "warm")), "other tags": Change(add_tags=("day",), remove_tags=("night",)),
    "state": Change(state="proposed"), "delete": Change(delete=True),
}  # fmt: skip


def entries_of(designer, count: int) -> list[int]:
    made = []
    for number in range(count):
        draft = looks.create(designer, look_from({"name": f"Warm {number}", "steps": [WARM]}))
        looks.save_version(designer, draft.pk)
        made.append(draft.pk)
    return made


def counted(change: Callable[[], object]) -> int:
    with CaptureQueriesContext(connection) as seen:
        change()
    return sum("SAVEPOINT" not in one["sql"] for one in seen)


def test_many_cost_what_few_do_and_so_does_taking_it_back(designer):
    few, plenty = entries_of(designer, FEW), entries_of(designer, MANY)
    costs: dict[str, list[int]] = {}
    for name, change in CHANGES.items():
        costs[name], costs[f"{name} back"] = [], []
        for ids in (few, plenty):
            done: list[many.Changed] = []
            costs[name].append(
                counted(lambda ids=ids, change=change, done=done: done.append(many.change_many(designer, ids, change)))
            )
            costs[f"{name} back"].append(counted(lambda done=done: done.append(many.undo(designer, done[0].undo))))
            assert (done[0].count, done[1].count, done[1].left) == (len(ids), len(ids), []), name
            if name == "tags":
                many.change_many(designer, ids, change)
    # A tag, a category and a word that are new are made once, whichever comes first.
    grown = {name: pair for name, pair in costs.items() if pair[1] > pair[0]}
    assert grown == {}
    assert max(most for _, most in costs.values()) <= 15, costs


def test_publishing_many_costs_what_publishing_few_does(designer, curator):
    few, plenty = ([Entry.objects.get(pk=pk).latest_id for pk in entries_of(designer, count)] for count in (FEW, MANY))
    costs = [counted(lambda ids=ids: review.publish_many(curator, ids)) for ids in (few, plenty)]
    assert costs[0] == costs[1] <= 15
    assert Entry.objects.filter(state=VersionState.PUBLISHED).count() == FEW + MANY


def test_states_of_many_are_told_one_by_one(designer, curator):
    plenty = entries_of(designer, FEW)
    many.change_many(designer, plenty, Change(state="proposed"))
    done = many.change_many(curator, plenty, Change(state="published"))
    assert Review.objects.filter(became=VersionState.PUBLISHED).count() == FEW
    assert Entry.objects.filter(published__isnull=False).count() == FEW
    left = many.undo(curator, done.undo).left
    assert len(left) == FEW, "what was published is not proposed again"
    many.change_many(curator, plenty, Change(state="retired"))
    assert Entry.objects.filter(published=None, state=VersionState.RETIRED).count() == FEW


def test_a_board_of_many_costs_what_one_of_few_does(designer, picture):
    everything = entries_of(designer, boards.MOST)
    few, plenty = everything[:2], everything
    costs: dict[str, list[int]] = {"keep": [], "change": [], "list": []}
    for ids in (few, plenty):
        kept: list[Board] = []
        costs["keep"].append(
            counted(lambda ids=ids, kept=kept: kept.append(boards.keep(designer, f"Board {len(ids)}", ids, [picture.pk])))
        )
        turned = boards.Change(entries=tuple(reversed(ids)))
        costs["change"].append(
            counted(lambda kept=kept, turned=turned: boards.change(designer, kept[0].pk, kept[0].revision, turned))
        )
        costs["list"].append(
            counted(lambda: [[one.entry_id for one in board.entries.all()] for board in boards.list_boards(designer)])
        )
        assert boards.order_of(kept[0], designer) == list(reversed(ids))
    assert {name: pair for name, pair in costs.items() if pair[1] > pair[0]} == {}
    assert max(most for _, most in costs.values()) <= 15, costs


def test_what_a_pack_of_many_would_hold_costs_what_that_of_few_does(designer, curator):
    few, plenty = entries_of(designer, FEW), entries_of(designer, MANY)
    for ids in (few, plenty):
        many.change_many(curator, ids, Change(may_pass_on="yes"))
    costs = []
    for ids in (few, plenty):
        choice = packing.PackChoice.model_validate({"entries": ids})
        found: list[tuple[list[packing.Leaving], list[LeftOut]]] = []
        costs.append(counted(lambda choice=choice, found=found: found.append(packing.choose(curator, choice))))
        assert len(found[0][0]) + len(found[0][1]) == len(ids)
    assert costs[1] <= costs[0] <= 15, costs
