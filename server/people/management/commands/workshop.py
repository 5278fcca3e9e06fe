"""`manage.py workshop NAME E-MAIL [LEAD'S NAME] [--language CODE]`: make a workshop and its lead.

The lead gets a mail to set a password.
"""

from typing import Any

from django.conf import settings
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.core.validators import validate_email
from django.db import transaction

from people.models import Act, Membership, Person, Role, Workshop
from people.tasks import mail
from warmdraft.tables import languages


class Command(BaseCommand):
    """Makes a workshop. The same name and lead again is the same workshop: the mail goes out once more."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("email")
        parser.add_argument("lead", nargs="?", default="")
        parser.add_argument("--time-zone", default="UTC")
        parser.add_argument("--language", choices=languages(), help="what it speaks; of one that is there, too")

    def handle(self, *args: Any, **options: Any) -> None:
        name, email, lead = options["name"].strip(), options["email"].strip().lower(), options["lead"].strip()
        try:
            validate_email(email)
        except ValidationError:
            raise CommandError(f"'{email}' is no e-mail; give one such as lead@lake.example") from None
        if not 0 < len(name) <= 120:
            raise CommandError("give the workshop a name of at most 120 characters")
        with transaction.atomic():
            person = Person.objects.filter(email=email).first()
            if person is None:
                person = Person.objects.create_user(email, None, name=lead or email.split("@")[0])
            mine = Membership.objects.filter(person=person, role=Role.LEAD, workshop__name=name).first()
            if mine is None:
                workshop = Workshop.objects.create(name=name, time_zone=options["time_zone"])
                Membership.objects.create(person=person, workshop=workshop, role=Role.LEAD)
                Act.objects.create(workshop=workshop, by=person, about=person, what="workshop_made")
            if options["language"]:
                Workshop.objects.filter(memberships__person=person, memberships__role=Role.LEAD, name=name).update(
                    language=options["language"]
                )
            mail("first_password", person.id)
        where = settings.MAIL.split("@")[-1]  # without who signs in there
        self.stdout.write(
            f"{name} is made; {person.name} gets a mail to set a password" + (f": {where}" if where else "")
        )
