"""How long files really take here, against what was expected of them: forecasts come from what this installation measured lately."""

from __future__ import annotations

from django.db.models import Count, F, Q, Sum

from saucer.studio.projects.models import Delivery

LATELY = 10
"""Deliveries that are looked back at."""
LEAST, MOST = 0.2, 20.0
ENOUGH = 2.0
"""Seconds of work, below which nothing is concluded from how long it took."""


def measured_pace() -> float:
    """By how much what was expected is to be multiplied; 1 where nothing was measured yet. Two queries."""
    lately = Delivery.objects.filter(forecast__gt=0).order_by("-pk").values("pk")[:LATELY]
    told = Delivery.objects.filter(pk__in=list(lately.values_list("pk", flat=True))).annotate(
        took=Sum("items__seconds"), missing=Count("items", filter=~Q(items__kind__in=("list", "look")) & Q(items__seconds=None))
    )
    pairs = list(told.filter(missing=0, took__gt=0).order_by().values_list(F("took"), F("forecast")))
    took, expected = sum(one for one, _ in pairs), sum(one for _, one in pairs)
    return min(max(took / expected, LEAST), MOST) if took > ENOUGH and expected > 0 else 1.0
