"""Rows that break what the database holds by now: found, and given the most careful value there is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.apps import apps
from django.db import models, transaction
from django.db.models import F, Value
from django.db.models.functions import Concat, Greatest, Least, Left

from saucer.studio.catalogue.models import PassOn, VersionState
from saucer.studio.catalogue.words import LONGEST
from saucer.studio.common.constraints import Loose, list_loose
from saucer.studio.jobs.models import State
from saucer.studio.people.models import Role
from saucer.studio.people.rules import record

REMEDIES: Mapping[str, Mapping[str, Any]] = {
    "role_of_a_person": {"role": Role.VIEWER},
    "state_of_a_job": {"state": State.FAILED}, "progress_of_a_job": {"progress": Least(Greatest(F("progress"), 0.0), 1.0)},
    "category_has_a_name": {"name": Concat(Value("_"), F("id"), output_field=models.CharField())},
    "state_of_an_entry": {"state": VersionState.DRAFT}, "state_of_a_version": {"state": VersionState.DRAFT},
    "whether_an_entry_may_be_passed_on": {"may_pass_on": PassOn.UNKNOWN},
    "until_when_an_entry_may_be_passed_on": {"pass_on_until": None, "may_pass_on": PassOn.UNKNOWN},
    "health_of_an_entry": {"health": ""}, "note_of_an_entry": {"note": Left("note", LONGEST["note"])},
    "what_a_review_was": {"was": VersionState.DRAFT}, "what_a_review_became": {"became": VersionState.DRAFT},
    "how_a_lut_is_known": {"known": "asked"}, "health_of_a_lut": {"health": "notice"},
    "choice_of_a_verdict": {"choice": ""},
    "role_of_a_member": {"role": "follows"}, "role_of_a_layer": {"role": "look"}, "note_of_a_project": {"note": Left("note", 2000)},
}  # fmt: skip
"""By constraint: what a row gets that breaks it. Where nothing is here, what is right cannot be guessed: somebody has to look."""


@dataclass(frozen=True)
class Broken:
    """Rows that break a constraint. rows: some of them, in words; count: of all; mended: were they put right?"""

    loose: Loose
    rows: list[str]
    count: int
    mended: bool

    @property
    def words(self) -> str:
        told = ", ".join(self.rows[:5]) + (f" and {self.count - 5} more" if self.count > 5 else "")
        rule = self.loose.name.replace("_", " ")
        if self.mended:
            return f"put right: {rule}: {told}"
        hint = (
            "--mend puts it right"
            if self.loose.name in REMEDIES
            else "what is right cannot be guessed: correct or delete it by hand"
        )
        return f"against the rule of the database ({rule}): {told}; {hint}"


def check_rows(mend: bool = False) -> list[Broken]:
    """Every row against the constraints that were added when it was there already. mend: give it what is in REMEDIES"""
    found = []
    for loose in list_loose():
        model = _model_of(loose.table)
        keys = loose.list_rows()
        if not keys:
            loose.validate()
            continue
        rows = model._default_manager.filter(pk__in=keys)
        told, remedy = [str(row) for row in rows[:5]], REMEDIES.get(loose.name)
        mended = mend and remedy is not None
        if mended and remedy is not None:
            with transaction.atomic():
                record(
                    None, "mend rows", f"{len(keys)} of {loose.table}", rule=loose.name, keys=keys[:500], became=str(dict(remedy))
                )
                rows.update(**remedy)
            loose.validate()
        found.append(Broken(loose, told, len(keys), mended))
    return found


def _model_of(table: str) -> type[models.Model]:
    return next(model for model in apps.get_models(include_auto_created=True) if model._meta.db_table == table)
