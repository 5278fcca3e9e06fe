"""`manage.py demo`: build the demo workshop where there is none; with --reset, anew."""

from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.utils import timezone

from demo.world import WORKSHOP, reset
from people.models import Workshop


class Command(BaseCommand):
    """Builds the demo workshop."""

    help = "Build the demo workshop where there is none; with --reset, anew."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--reset", action="store_true")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["reset"] or not Workshop.objects.filter(name=WORKSHOP).exists():
            reset(timezone.now())
