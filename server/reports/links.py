"""Private links to records: given, withdrawn, read."""

from uuid import UUID

from django.db import transaction
from django.utils import timezone

from jobs.facts import reads
from jobs.facts.timeline import record_happening
from people.may import Member
from people.tokens import open_token, switch
from reports.models import Link, Record


def set_link(who: Member, job_id: UUID, on: bool) -> Link | None:
    """Give a job's record a private link, or withdraw the one it has: that is not found from then on."""
    who.require("hand_over")
    with transaction.atomic():
        job = reads.locked(who, job_id)
        link, changed = switch(Link, who, on, job=job)
        if changed:
            record_happening(who, job, "link_given" if on else "link_withdrawn", timezone.now())
    return link


def read_by(token: str) -> tuple[Link, Record] | None:
    """What a token leads to: the latest edition of its job's record; None where it is withdrawn or was never given."""
    link = open_token(Link, token=token)
    if link is None:
        return None
    record = Record.objects.select_related("job__machine__place", "workshop").filter(job=link.job_id)
    latest = record.order_by("-edition").first()
    return (link, latest) if latest is not None else None
