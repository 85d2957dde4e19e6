"""/metrics, in the text format of Prometheus: what the server processes of this machine counted, and what the database says."""

from __future__ import annotations

import hmac
import os
from collections.abc import Iterable

from django.conf import settings
from django.db import connection
from django.http import HttpRequest, HttpResponse, HttpResponseForbidden, HttpResponseNotFound
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, generate_latest
from prometheus_client.core import GaugeMetricFamily, Metric
from prometheus_client.multiprocess import MultiProcessCollector
from prometheus_client.registry import Collector

_JOBS = """
SELECT kind, state, count(*), coalesce(extract(epoch FROM now() - min(created)), 0)
FROM jobs_job WHERE parent_id IS NULL GROUP BY 1, 2
"""
_ONE = """
SELECT (SELECT count(*) FROM people_person WHERE is_active AND seen > now() - interval '1 day'),
       (SELECT coalesce(sum(bytes), 0) FROM common_blob), (SELECT count(*) FROM common_blob),
       (SELECT count(*) FROM pg_stat_activity WHERE datname = current_database()),
       (SELECT count(*) FROM procrastinate_workers WHERE last_heartbeat > now() - interval '1 minute'),
       (SELECT coalesce(extract(epoch FROM now() - max(at)), -1) FROM people_activity WHERE action = 'back up')
"""


class Studio(Collector):
    """What the database says. A fixed number of queries."""

    def collect(self) -> Iterable[Metric]:
        with connection.cursor() as cursor:
            cursor.execute(_JOBS)
            rows = cursor.fetchall()
            cursor.execute(_ONE)
            people, stored, files, connections, workers, backup = cursor.fetchone()
        jobs = GaugeMetricFamily("saucer_jobs", "Jobs by kind and state", labels=["kind", "state"])
        oldest = GaugeMetricFamily(
            "saucer_oldest_waiting_job_seconds", "How long the first in the queue has waited", labels=["kind"]
        )
        for kind, state, count, age in rows:
            jobs.add_metric([kind, state], count)
            if state == "waiting":
                oldest.add_metric([kind], float(age))
        yield jobs
        yield oldest
        for name, words, value in (
            ("saucer_people_seen", "People who did something within a day", people),
            ("saucer_store_bytes", "Bytes of all files that are kept", stored),
            ("saucer_store_files", "Files that are kept", files),
            ("saucer_database_connections", "Connections to the database, by anybody", connections),
            ("saucer_workers", "Workers that gave a sign of life within a minute", workers),
            ("saucer_backup_age_seconds", "Since the last backup; -1: there was none", backup),
        ):
            yield GaugeMetricFamily(name, words, value=float(value))


def show_metrics(request: HttpRequest) -> HttpResponse:
    """For who says the token (SAUCER_METRICS_TOKEN); where none is set there is nothing here."""
    if not settings.METRICS_TOKEN:
        return HttpResponseNotFound("No metrics are shown: SAUCER_METRICS_TOKEN is not set.", content_type="text/plain")
    said = request.headers.get("Authorization", "").removeprefix("Bearer ").strip()
    if not hmac.compare_digest(said.encode(), settings.METRICS_TOKEN.encode()):
        return HttpResponseForbidden("Say the token: Authorization: Bearer ...", content_type="text/plain")
    counted = CollectorRegistry()
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        MultiProcessCollector(counted)  # type: ignore[no-untyped-call]
    studio = CollectorRegistry()
    studio.register(Studio())
    text = generate_latest(counted if "PROMETHEUS_MULTIPROC_DIR" in os.environ else REGISTRY) + generate_latest(studio)
    return HttpResponse(text, content_type=CONTENT_TYPE_LATEST)
