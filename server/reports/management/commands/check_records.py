"""Hold every record against the hash it was frozen with."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from reports.models import Record
from reports.services import digest


class Command(BaseCommand):
    """Exits with an error that names the records that changed."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        count, changed = 0, []
        for record in Record.objects.order_by("at").iterator():
            count += 1
            if digest(record.snapshot) != record.sha256:
                changed.append(str(record.id))
        if changed:
            raise CommandError(f"{len(changed)} of {count} records are not what was frozen: {', '.join(changed)}")
        self.stdout.write(f"{count} records, every hash as it was frozen")
