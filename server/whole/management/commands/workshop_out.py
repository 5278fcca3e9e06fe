"""`manage.py workshop_out NAME FILE`: a whole workshop as a ZIP of open files."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from people.models import Workshop
from whole.out import write_out


class Command(BaseCommand):
    """Writes it whole or not at all."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name", help="the workshop's name, or its id where two are called alike")
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        found = [row for row in Workshop.objects.filter(practice_of=None) if options["name"] in (row.name, str(row.id))]
        if len(found) != 1:
            called = ", ".join(f"{row.name} ({row.id})" for row in found) or "none"
            raise CommandError(f"'{options['name']}' names {called}; give the name or the id of one workshop")
        file: Path = options["file"]
        part = file.with_name(file.name + ".part")
        try:
            part.touch(mode=0o600)  # all there is of it: its owner's alone
            with part.open("wb") as target:
                manifest = write_out(found[0], target)
            part.replace(file)
        finally:
            part.unlink(missing_ok=True)
        self.stdout.write(f"{file}  {sum(manifest['rows'].values())} rows, {len(manifest['sha256'])} files")
