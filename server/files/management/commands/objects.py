"""`manage.py objects`: carry pictures and recordings from the database over to the store of objects (WARM_OBJECTS)."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from files import objects
from files.kept import moved
from files.models import Picture, Recording

#: Carried over between two commits.
_AT_ONCE = 20


class Command(BaseCommand):
    """May be ended and run again at any time; the app may run on."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        if objects.store() is None:
            raise CommandError("WARM_OBJECTS names no store: give s3://bucket/prefix, or file:///folder")
        for model in (Picture, Recording):
            carried = 0
            while more := moved(model, _AT_ONCE):
                carried += more
            self.stdout.write(f"{carried} {model._meta.verbose_name_plural} carried over")
