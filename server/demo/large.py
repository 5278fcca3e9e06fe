"""The jobs of years: a workshop with 100,000 of them, and as many in others, laid out from the demo's own.

Each is one of the demo's jobs under a new id, at another place and time. The database copies them, set by set: worked
out one by one through the services they would take hours. Their summaries hold: what is copied more often than it was
read counts as taken back, so that the verdict is the one of the demo's job.
"""

import time
from collections.abc import Callable, Iterator
from typing import Any
from uuid import UUID, uuid5

from django.db import connection, transaction
from django.utils import timezone

from demo.world import PASSWORD, WORLD, reset
from people.models import Membership, Person, Role, Workshop

#: Jobs that are laid out in one transaction.
AT_ONCE = 10_000
#: Readings of each job; those beyond what the demo's job has are taken back.
READINGS = 10
#: Lines of each job's history, the latest of the demo's job.
LINES = 8
#: One job in so many is open still; one in so many keeps its record (each as large as all the rest of a job).
OPEN, RECORDS = 10, 100

LEAD = "many@skellmere.example"
WORKSHOPS = ("Skellmere Works of Many Years", "Works Beside It", "Works Across the Lake")

#: Half of the names of places; the other half, and a number, follow.
_FIRST = [
    "Alder",
    "Beacon",
    "Bracken",
    "Curlew",
    "Drover",
    "Ember",
    "Fallow",
    "Gannet",
    "Harrow",
    "Juniper",
    "Kestrel",
    "Larch",
    "Meadow",
    "Nettle",
    "Osier",
    "Plover",
    "Quarry",
    "Rowan",
    "Sedge",
    "Tansy",
    "Umber",
    "Vetch",
    "Willow",
    "Yarrow",
]
_SECOND = [
    "laundry",
    "kennels",
    "guesthouse",
    "boathouse",
    "nursery",
    "theatre",
    "hostel",
    "farm",
    "sauna",
    "clubhouse",
    "barracks",
    "bakery",
    "infirmary",
    "lodge",
    "mill",
    "school",
    "ferry",
    "chapel",
    "smithy",
    "orchard",
]
_CONTACTS = [
    "Maro Tindle",
    "Isa Quell",
    "Bran Oster",
    "Edda Lume",
    "Tarn Vesey",
    "Orla Pike",
    "Nils Harbin",
    "Wyn Calder",
]

_COLUMNS = """
SELECT column_name FROM information_schema.columns WHERE table_name = %s AND column_name <> ALL(%s) ORDER BY column_name
"""

#: Where each clone's template, place and moment follow from its number.
_NUMBERS = """
CREATE TEMP TABLE clone ON COMMIT DROP AS
SELECT n, t.job_id AS old, t.machine_id AS old_machine, t.place_id AS old_place,
       md5(%(seed)s || 'job' || n)::uuid AS job, md5(%(seed)s || 'machine' || n)::uuid AS machine,
       md5(%(seed)s || 'place' || n / 4)::uuid AS place, n %% %(open)s <> 0 AS shut,
       CASE WHEN n %% %(open)s = 0 THEN %(now)s::timestamptz + ((n * 7919 %% 40) - 10) * interval '1 day'
            ELSE %(now)s::timestamptz - (11 + n * 7919 %% 1800) * interval '1 day' END
           + (n %% 20) * interval '30 minutes' AS booked
FROM generate_series(%(first)s::bigint, %(last)s::bigint) n
-- of any demo job as often open as handed over, early as late
JOIN template t ON t.number = (n + n / 10 + n / 40) %% (SELECT count(*) FROM template)
"""
_TEMPLATES = """
CREATE TEMP TABLE template AS
SELECT row_number() OVER (ORDER BY j.id) - 1 AS number, j.id AS job_id, j.machine_id, m.place_id
FROM jobs_job j JOIN machines_machine m ON m.id = j.machine_id
WHERE j.workshop_id = %(demo)s AND EXISTS (SELECT 1 FROM jobs_reading r WHERE r.job_id = j.id)
"""
_PLACES = """
INSERT INTO machines_place (id, workshop_id, name, address, contact, version)
SELECT DISTINCT ON (place) place, %(workshop)s::uuid,
       (%(first_half)s::text[])[1 + n / 4 %% 24] || ' ' || (%(second_half)s::text[])[1 + n / 96 %% 20] || ' ' || n / 4,
       n / 4 || ' Ness Lane', (%(contacts)s::text[])[1 + n / 4 %% 8], 1
FROM clone ON CONFLICT DO NOTHING
"""
#: Rows of a job's table, each under a new id.
_FACTS = """
INSERT INTO {table} (id, workshop_id, job_id, by_id, at, {columns})
SELECT md5(%(seed)s || c.n || ':' || f.id)::uuid, %(workshop)s::uuid, c.job, %(lead)s::uuid,
       c.booked + (f.at - j.booked_for), {values}
FROM clone c JOIN jobs_job j ON j.id = c.old JOIN {table} f ON f.job_id = c.old ORDER BY c.n, f.seq
"""
_READINGS = """
INSERT INTO jobs_reading (id, workshop_id, job_id, by_id, at, withdrawn, {columns})
SELECT md5(%(seed)s || c.n || ':' || k || ':' || f.id)::uuid, %(workshop)s::uuid, c.job, %(lead)s::uuid,
       c.booked + (f.at - j.booked_for) + k * interval '1 minute', f.withdrawn OR k > 0, {values}
FROM clone c JOIN jobs_job j ON j.id = c.old JOIN (
    SELECT r.*, k, row_number() OVER (PARTITION BY r.job_id ORDER BY k, r.seq) AS place
    FROM jobs_reading r, generate_series(0, %(readings)s - 1) k WHERE r.job_id IN (SELECT job_id FROM template)
) f ON f.job_id = c.old AND f.place <= %(readings)s ORDER BY c.n, f.place
"""
_JOBS = """
INSERT INTO jobs_job (id, workshop_id, machine_id, created_by_id, booked_for, shut, editions, {columns})
SELECT c.job, %(workshop)s::uuid, c.machine, %(lead)s::uuid, c.booked, c.shut,
       CASE WHEN c.shut THEN 1 ELSE 0 END, {values}
FROM clone c JOIN jobs_job f ON f.id = c.old
"""
_MACHINES = """
INSERT INTO machines_machine (id, workshop_id, place_id, {columns})
SELECT c.machine, %(workshop)s::uuid, c.place, {values} FROM clone c JOIN machines_machine f ON f.id = c.old_machine
"""
_HISTORY = """
INSERT INTO jobs_happening (workshop_id, job_id, by_id, {columns})
SELECT %(workshop)s::uuid, c.job, %(lead)s::uuid, {values} FROM clone c JOIN (
    SELECT h.*, row_number() OVER (PARTITION BY h.job_id ORDER BY h.id DESC) AS place
    FROM jobs_happening h WHERE h.job_id IN (SELECT job_id FROM template)
) f ON f.job_id = c.old AND f.place <= %(lines)s
"""
_SUMMARIES = """
INSERT INTO jobs_summary (job_id, workshop_id, last_by_id, booked_for, version, stage, stage_number, next, headline,
                          trouble, made_of, search)
SELECT c.job, %(workshop)s::uuid, %(lead)s::uuid, c.booked, f.version,
       CASE WHEN c.shut THEN 'hand_over' ELSE f.stage END,
       CASE WHEN c.shut THEN 9 ELSE f.stage_number END, CASE WHEN c.shut THEN 'Show the record' ELSE f.next END,
       f.headline, '', f.made_of,
       to_tsvector('simple', p.name || ' ' || p.address || ' ' || p.contact) || f.said
FROM clone c JOIN machines_place p ON p.id = c.place JOIN (
    SELECT s.*, to_tsvector('english', x.said) || to_tsvector('simple', x.said) AS said
    FROM jobs_summary s JOIN jobs_job j ON j.id = s.job_id,
    LATERAL (SELECT s.headline || ' ' || s.next || ' ' || j.title || ' ' || j.said) AS x(said)
    WHERE s.job_id IN (SELECT job_id FROM template)
) f ON f.job_id = c.old
"""
_RECORDS = """
INSERT INTO reports_record (id, workshop_id, job_id, by_id, at, {columns})
SELECT md5(%(seed)s || c.n || ':' || f.id)::uuid, %(workshop)s::uuid, c.job, %(lead)s::uuid, c.booked, {values}
FROM clone c JOIN (SELECT * FROM reports_record WHERE workshop_id = %(demo)s ORDER BY id LIMIT 1) f
     ON c.shut AND c.n / %(open)s %% (%(records)s / %(open)s) = 0
"""
_WORDS = """
INSERT INTO jobs_word (workshop_id, word) SELECT %(workshop)s::uuid, w FROM (
    SELECT lower(unnest(%(first_half)s::text[])) UNION SELECT unnest(%(second_half)s::text[])
    UNION SELECT word FROM jobs_word WHERE workshop_id = %(demo)s
) AS words(w) ON CONFLICT DO NOTHING
"""


def lay_out(jobs: int, told: Callable[[str], object], one: str = "") -> None:
    """Lay out so many jobs in one workshop and as many in two others, or in one of a name; what is there stays."""
    sizes = [(one, jobs)] if one else zip(WORKSHOPS, (jobs, jobs // 2, jobs - jobs // 2), strict=True)
    began = time.monotonic()
    demo = reset(timezone.now()) if not Workshop.objects.filter(id=uuid5(WORLD, "workshop")).exists() else None
    demo_id = demo.id if demo else uuid5(WORLD, "workshop")
    lead = Person.objects.filter(email=LEAD).first() or Person.objects.create_user(
        LEAD, PASSWORD, name="Lena Many", for_looking_round=True
    )
    for name, number in sizes:
        workshop, made = Workshop.objects.get_or_create(id=uuid5(WORLD, name), defaults={"name": name})
        if not made:
            continue
        Membership.objects.create(person=lead, workshop=workshop, role=Role.LEAD, qualifications=["gas", "live"])
        _workshop(workshop.id, demo_id, lead.id, number)
        told(f"{name}: {number:,} jobs, {time.monotonic() - began:.0f} s")
    with connection.cursor() as cursor:
        cursor.execute("DROP TABLE IF EXISTS template")
        cursor.execute("ANALYZE")


def _workshop(workshop: UUID, demo: UUID, lead: UUID, jobs: int) -> None:
    facts: dict[str, Any] = {
        "workshop": workshop, "demo": demo, "lead": lead, "seed": str(workshop), "now": timezone.now(), "open": OPEN,
        "readings": READINGS, "lines": LINES, "records": RECORDS, "first_half": _FIRST, "second_half": _SECOND,
        "contacts": _CONTACTS,
    }  # fmt: skip
    with connection.cursor() as cursor:
        cursor.execute("DROP TABLE IF EXISTS template")
        cursor.execute(_TEMPLATES, facts)
        for first in range(0, jobs, AT_ONCE):
            with transaction.atomic():
                _some(cursor, facts | {"first": first, "last": min(first + AT_ONCE, jobs) - 1})
        cursor.execute(_WORDS, facts)


def _some(cursor: Any, facts: dict[str, Any]) -> None:
    cursor.execute(_NUMBERS, facts)
    cursor.execute("ANALYZE clone")
    cursor.execute(_PLACES, facts)
    for statement, table, own in _copies():
        cursor.execute(_with_columns(cursor, statement, table, own), facts)
    cursor.execute(_SUMMARIES, facts)


def _copies() -> Iterator[tuple[str, str, tuple[str, ...]]]:
    """Statement, table, and the columns that the statement itself fills."""
    yield _MACHINES, "machines_machine", ("id", "workshop_id", "place_id")
    yield _JOBS, "jobs_job", ("id", "workshop_id", "machine_id", "created_by_id", "booked_for", "shut", "editions")
    fact = ("id", "workshop_id", "job_id", "by_id", "at", "seq", "supersedes_id")
    yield _READINGS, "jobs_reading", (*fact, "withdrawn")
    for table in ("finding", "metertest", "log", "mark", "count", "waychoice", "cause"):
        yield _FACTS, f"jobs_{table}", fact
    yield _HISTORY, "jobs_happening", ("id", "workshop_id", "job_id", "by_id")
    yield _RECORDS, "reports_record", ("id", "workshop_id", "job_id", "by_id", "at")


def _with_columns(cursor: Any, statement: str, table: str, own: tuple[str, ...]) -> str:
    cursor.execute(_COLUMNS, [table, list(own)])
    names = [row[0] for row in cursor.fetchall()]
    return statement.format(table=table, columns=", ".join(names), values=", ".join(f"f.{name}" for name in names))
