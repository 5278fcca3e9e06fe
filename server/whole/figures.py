"""What each workshop of an installation has and takes: for whoever runs it."""

from dataclasses import dataclass
from datetime import date, timedelta

from django.db.models import Max, Sum
from django.utils import timezone

from files.models import Picture, Recording
from jobs.models import Happening, Job
from people.models import Membership, Workshop
from whole.rows import models_of_workshops, rows_of

#: What a month is counted from.
_MONTHS = 3


@dataclass(frozen=True, slots=True)
class WorkshopFigures:
    """One workshop. jobs_a_month: of the last three; rows: of all tables; megabytes: of photos and recordings."""

    name: str
    people: int
    jobs: int
    jobs_a_month: int
    rows: int
    megabytes: float
    last_used: date | None


def figures() -> list[WorkshopFigures]:
    """Every workshop, the largest first."""
    found = [_of(row) for row in Workshop.objects.filter(practice_of=None)]
    return sorted(found, key=lambda row: (-row.rows, row.name))


def _of(workshop: Workshop) -> WorkshopFigures:
    tenants = [workshop, *Workshop.objects.filter(practice_of=workshop)]
    jobs = Job.objects.filter(workshop=workshop)
    since = timezone.now() - timedelta(days=30 * _MONTHS)
    sizes = [model.objects.filter(workshop__in=tenants).aggregate(size=Sum("size"))["size"] for model in
             (Picture, Recording)]  # fmt: skip
    last = Happening.objects.filter(workshop=workshop).aggregate(at=Max("received_at"))["at"]
    return WorkshopFigures(
        name=workshop.name, people=Membership.objects.filter(workshop=workshop).count(), jobs=jobs.count(),
        jobs_a_month=round(jobs.filter(created_at__gte=since).count() / _MONTHS),
        rows=sum(rows_of(model, tenant).count() for tenant in tenants for model in models_of_workshops()),
        megabytes=sum(size or 0 for size in sizes) / 1e6, last_used=last.date() if last else None,
    )  # fmt: skip
