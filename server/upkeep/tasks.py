"""Work of the worker about upkeep: what a kind shows, and mails that remind a customer."""

from contextlib import suppress
from datetime import timedelta
from uuid import UUID

from django.conf import settings
from django.core import signing
from django.db import IntegrityError, transaction
from django.utils import timezone

from people.tasks import send
from shared.queues import MAIL, WORK, task, tick
from upkeep.models import Due, Reminder
from upkeep.services import RENEW_KIND
from upkeep.services import look_back as look_back_at_old_jobs
from upkeep.services import renew as renew_what_a_kind_shows
from warmdraft.paper import language_for, says_for

#: A customer is reminded so long before the day.
AHEAD = timedelta(days=21)
#: And no longer after it: who did not come then has their reasons.
LATE = timedelta(days=60)
SALT = "no more reminders"


@task(RENEW_KIND, WORK)
def renew_kind(workshop: str, profile: str) -> None:
    """What a workshop's machines of a kind show."""
    renew_what_a_kind_shows(UUID(workshop), profile)


@tick("look_back", cron="*/5 * * * *")
def look_back(timestamp: int) -> None:
    """Visits of jobs of an earlier release, some at a time until all are there."""
    look_back_at_old_jobs()


@tick("remind", cron="17 6 * * *")
def remind(timestamp: int) -> None:
    """Queue a mail for each machine that is due soon and whose place may be written to."""
    today = timezone.localdate()
    rows = Due.objects.filter(
        service_by__lte=today + AHEAD, service_by__gte=today - LATE, machine__place__no_reminders=False
    ).exclude(machine__place__mail="").exclude(machine__jobs__shut=False)  # fmt: skip
    for due in rows.iterator():
        if not Reminder.objects.filter(machine=due.machine_id, service_by=due.service_by).exists():
            remind_of.defer(machine=str(due.machine_id))


@task("remind_of", MAIL)
def remind_of(machine: str) -> None:
    """Write to one customer, once for each day a machine is due: what is written down first is not sent twice."""
    due = Due.objects.select_related("machine__place", "workshop").filter(machine=UUID(machine)).first()
    if due is None or not due.machine.place.mail or due.machine.place.no_reminders:
        return
    place = due.machine.place
    says = says_for(language_for(place.language, due.workshop.speaks))
    stop = f"{settings.ADDRESS}/no-more-mail/{signing.dumps(str(place.id), salt=SALT)}"
    what = ", ".join(part for part in (place.name, due.machine.name) if part)
    text = "\n\n".join((
        says("reminder", "due", machine=what, day=says.day(due.service_by), workshop=due.workshop.name),
        says("due", "year"), says("reminder", "stop") + f"\n{stop}",
    ))  # fmt: skip
    with suppress(IntegrityError), transaction.atomic():
        Reminder.objects.create(machine=due.machine, service_by=due.service_by)
        send("reminder", place.mail, says("reminder", "subject", workshop=due.workshop.name), text)
