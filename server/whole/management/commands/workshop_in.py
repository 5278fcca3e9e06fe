"""`manage.py workshop_in FILE`: a workshop that was written out, into an installation that does not have it yet."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from people.models import Membership
from people.tasks import mail
from warmdraft.errors import DocumentError
from whole.bring import bring_in


class Command(BaseCommand):
    """All of it or nothing. Who has no account here yet gets a mail to set a password."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            with options["file"].open("rb") as source:
                workshop = bring_in(source)
        except OSError as error:
            raise CommandError(f"{options['file']} cannot be read: {error.strerror}") from None
        except DocumentError as error:
            raise CommandError(str(error)) from None
        for row in Membership.objects.filter(workshop=workshop).select_related("person"):
            if not row.person.has_usable_password():
                mail("first_password", row.person.id)
        self.stdout.write(f"{workshop.name} is here.")
