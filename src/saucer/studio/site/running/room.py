"""What takes room in the store: by kind, by person, by project."""

from __future__ import annotations

import shutil
from dataclasses import dataclass

from django.db import connection

from saucer.studio.common.local import kept_in
from saucer.studio.people import quota
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import require

MOST = 200
"""Lines of each list, the largest first."""
# Every way from a stored file to whose it is. A file that is used twice stands here twice, and is counted once wherever it is counted.
_USES = """
WITH uses (blob, kind, person, project) AS (
    SELECT blob_id, 'pictures', owner_id, NULL::bigint FROM pictures_picture
    UNION ALL SELECT proxy_id, 'small copies', owner_id, NULL FROM pictures_picture
    UNION ALL SELECT file.blob_id, 'footage', picture.owner_id, NULL
        FROM pictures_footagefile file JOIN pictures_picture picture ON picture.id = file.footage_id
    UNION ALL SELECT footage.proxy_id, 'small copies', picture.owner_id, NULL
        FROM pictures_footage footage JOIN pictures_picture picture ON picture.id = footage.picture_id
    UNION ALL SELECT file.blob_id, 'LUTs', entry.owner_id, NULL
        FROM luts_lutfile file JOIN luts_lut lut ON lut.id = file.lut_id
        JOIN catalogue_version version ON version.id = lut.version_id JOIN catalogue_entry entry ON entry.id = version.entry_id
    UNION ALL SELECT line.blob_id, 'packs being read', pack.person_id, NULL
        FROM luts_packrow line JOIN luts_pack pack ON pack.id = line.pack_id
    UNION ALL SELECT item.blob_id, 'deliveries', delivery.made_by_id, delivery.project_id
        FROM projects_deliveryitem item JOIN projects_delivery delivery ON delivery.id = item.delivery_id
    UNION ALL SELECT used.blob_id, 'results of jobs', job.person_id, NULL
        FROM jobs_job_blobs used JOIN jobs_job job ON job.id = used.job_id
    UNION ALL SELECT picture.blob_id, 'pictures', picture.owner_id, scene.project_id
        FROM projects_shot shot JOIN projects_scene scene ON scene.id = shot.scene_id
        JOIN pictures_picture picture ON picture.id = shot.picture_id
    UNION ALL SELECT file.blob_id, 'footage', picture.owner_id, scene.project_id
        FROM projects_shot shot JOIN projects_scene scene ON scene.id = shot.scene_id
        JOIN pictures_picture picture ON picture.id = shot.picture_id
        JOIN pictures_footagefile file ON file.footage_id = picture.id
)
"""
_GROUPED = {
    "kind": "SELECT kind, kind, sum(bytes), count(*) FROM"
    " (SELECT DISTINCT kind, sha256, bytes FROM uses JOIN common_blob ON sha256 = blob) one GROUP BY 1",
    "person": "SELECT who.username, coalesce(nullif(who.full_name, ''), who.username), sum(bytes), count(*) FROM"
    " (SELECT DISTINCT person, sha256, bytes FROM uses JOIN common_blob ON sha256 = blob) one"
    " JOIN people_person who ON who.id = one.person GROUP BY 1, 2",
    "project": "SELECT project.id::text, project.name, sum(bytes), count(*) FROM"
    " (SELECT DISTINCT project, sha256, bytes FROM uses JOIN common_blob ON sha256 = blob) one"
    " JOIN projects_project project ON project.id = one.project WHERE project.deleted IS NULL GROUP BY 1, 2",
}


_ONE = "SELECT coalesce(sum(bytes), 0) FROM (SELECT DISTINCT sha256, bytes FROM uses JOIN common_blob ON sha256 = blob WHERE {} = %s) one"


def _count(column: str, pk: int) -> int:
    with connection.cursor() as cursor:
        cursor.execute(f"{_USES} {_ONE.format(column)}", [pk])
        return int(cursor.fetchone()[0])


@quota.counts("person")
def count_of_person(pk: int) -> int:
    return _count("person", pk)


@quota.counts("project")
def count_of_project(pk: int) -> int:
    """Of what was delivered from it, and of the pictures and clips that are its shots."""
    return _count("project", pk)


@dataclass(frozen=True)
class Part:
    key: str
    name: str
    bytes: int
    files: int


@dataclass(frozen=True)
class Room:
    """bytes, files: of everything that is kept, each file once; free: bytes of the disk, none for a store that is no folder"""

    bytes: int
    files: int
    free: int | None
    kinds: list[Part]
    people: list[Part]
    projects: list[Part]


def measure(person: Person) -> Room:
    """A fixed number of queries. Raises: NotAllowed"""
    require(person, Role.ADMIN, "see what takes room")
    with connection.cursor() as cursor:
        cursor.execute("SELECT coalesce(sum(bytes), 0), count(*) FROM common_blob")
        whole, files = cursor.fetchone()
        parts = {}
        for name, grouped in _GROUPED.items():
            cursor.execute(f"{_USES} {grouped} ORDER BY 3 DESC LIMIT {MOST}")
            parts[name] = [Part(key, said, int(size), count) for key, said, size, count in cursor.fetchall()]
    try:
        free: int | None = shutil.disk_usage(kept_in()).free
    except OSError:
        free = None
    return Room(int(whole), files, free, parts["kind"], parts["person"], parts["project"])
