"""`manage.py workshops`: each workshop of this installation with what it has and what it takes."""

from typing import Any

from django.core.management.base import BaseCommand

from whole.figures import figures

#: Heading and width of each column.
_COLUMNS = (
    ("workshop", 32),
    ("people", 7),
    ("jobs", 8),
    ("a month", 8),
    ("rows", 10),
    ("files MB", 9),
    ("last used", 11),
)


class Command(BaseCommand):
    """Largest first; rooms for drills count with their workshops."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        self.stdout.write("".join(f"{name:<{width}}" for name, width in _COLUMNS))
        for row in figures():
            cells = (row.name[:31], row.people, row.jobs, row.jobs_a_month, row.rows, f"{row.megabytes:.1f}",
                     row.last_used or "never")  # fmt: skip
            self.stdout.write("".join(f"{cell!s:<{width}}" for cell, (_, width) in zip(cells, _COLUMNS, strict=True)))
