"""`manage.py demo`: build the demo workshop where there is no workshop at all; with --reset, anew."""

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils import timezone

from demo.large import lay_out
from demo.world import reset
from people.models import Person, Workshop


class Command(BaseCommand):
    """Builds the demo workshop: for looking round on one machine, never where the world comes in."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--reset", action="store_true", help="take it away and build it anew")
        parser.add_argument("--is-there", action="store_true", help="say demo, nobody or others")
        parser.add_argument("--large", action="store_true", help="beside it, the jobs of years, in two workshops")
        parser.add_argument("--jobs", type=int, default=100_000, help="so many in one, and in two others together")
        parser.add_argument("--one", default="", metavar="NAME", help="in a workshop of this name alone")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["is_there"]:
            demo = Person.objects.filter(for_looking_round=True, is_active=True).exists()
            self.stdout.write("demo" if demo else "others" if Workshop.objects.exists() else "nobody")
            return
        if settings.HTTPS:
            raise CommandError("WARM_HTTPS=1: the demo's password is printed for everybody; lay it out on one machine.")
        if options["large"]:
            lay_out(options["jobs"], self.stdout.write, options["one"])
        elif options["reset"] or not Workshop.objects.exists():
            reset(timezone.now())
