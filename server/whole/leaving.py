"""Deleting a workshop for good: asked for, waited for, done, with a receipt; what the law asks to keep is kept."""

import hashlib
import json
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from django.conf import settings
from django.core.mail import send_mail
from django.db import transaction
from django.db.models import Model
from django.utils import timezone

from files import objects
from files.models import Picture, Recording
from people.hashing import is_right
from people.may import Member
from people.models import Act, Membership, Person, Role, Workshop
from people.services import anonymise
from reports.models import Record
from shared.problems import ApiError
from whole.models import KeptRecord, Leaving, Receipt
from whole.rows import models_of_workshops, rows_of

#: From the wish to the deed: time to take it back, and to take the workshop out (own choice).
WAITING = timedelta(days=14)
#: Years that records of work and money are usually kept (common practice; local law decides).
USUAL_YEARS, MOST_YEARS = 10, 30


def ask(who: Member, name: str, password: str, keep_years: int) -> Leaving:
    """Have the workshop deleted once its waiting time is over; asked again, nothing changes."""
    who.require("keep_the_workshop")
    if name.strip() != who.workshop.name:
        message = f"'{name[:60]}' is not what the workshop is called; type {who.workshop.name}"
        raise ApiError(422, "not_possible", message, [{"path": "$.name", "message": message}])
    if not is_right(who.person, password):
        raise ApiError(422, "wrong_password", "This is not your password; try again.",
                       [{"path": "$.password", "message": "is not yours"}])  # fmt: skip
    now = timezone.now()
    with transaction.atomic():
        leaving, made = Leaving.objects.get_or_create(
            workshop=who.workshop,
            defaults={"asked_by": who.person, "asked_at": now, "due_at": now + WAITING, "keep_years": keep_years},
        )
        if made:
            Act.objects.create(workshop=who.workshop, by=who.person, what="leaving_asked",
                               after={"due_at": leaving.due_at.isoformat()})  # fmt: skip
    return leaving


def take_back(who: Member) -> None:
    """Have the workshop stay after all."""
    who.require("keep_the_workshop")
    with transaction.atomic():
        if Leaving.objects.filter(workshop=who.workshop).delete()[0]:
            Act.objects.create(workshop=who.workshop, by=who.person, what="leaving_taken_back")


def leaving_of(who: Member) -> Leaving | None:
    """Whether and when the workshop goes."""
    return Leaving.objects.filter(workshop=who.workshop).select_related("asked_by").first()


def delete_due() -> list[Receipt]:
    """Delete every workshop whose waiting time is over."""
    due = Leaving.objects.filter(due_at__lte=timezone.now()).values_list("workshop", flat=True)
    return [receipt for workshop_id in list(due) if (receipt := delete(workshop_id)) is not None]


def delete(workshop_id: UUID) -> Receipt | None:
    """Delete a workshop that was asked to go; its receipt, which its leads get by mail."""
    with transaction.atomic():
        leaving = Leaving.objects.select_for_update(of=("self",)).select_related("workshop", "asked_by").filter(
            workshop=workshop_id, due_at__lte=timezone.now()
        ).first()  # fmt: skip
        if leaving is None:
            return None
        workshop, now = leaving.workshop, timezone.now()
        mails = list(
            Membership.objects.filter(workshop=workshop, role=Role.LEAD).values_list("person__email", flat=True)
        )
        people = list(Membership.objects.filter(workshop=workshop).values_list("person", flat=True))
        until = _years_after(timezone.localdate(), leaving.keep_years)
        kept = list(Record.objects.filter(workshop=workshop)) if leaving.keep_years else []
        going = [*Workshop.objects.filter(practice_of=workshop), workshop]
        counts = {model._meta.label: rows_of(model, workshop).count() for model in models_of_workshops()}
        document = {
            "format": "warm-draft/receipt", "version": 1, "workshop": str(workshop.id), "name": workshop.name,
            "asked_by": leaving.asked_by.name, "asked_at": leaving.asked_at.isoformat(), "deleted_at": now.isoformat(),
            "rows": {name: number for name, number in counts.items() if number},
            "records_kept": len(kept), "kept_until": until.isoformat() if kept else None,
            "backups": "Backups made before hold it still, until whoever runs this server lets them go.",
        }  # fmt: skip
        receipt = Receipt.objects.create(
            workshop=workshop.id, document=document, sha256=hashlib.sha256(_text(document).encode()).hexdigest(),
            made_at=now,
        )  # fmt: skip
        KeptRecord.objects.bulk_create([
            KeptRecord(receipt=receipt, record=row.id, edition=row.edition, at=row.at, sha256=row.sha256,
                       snapshot=row.snapshot, until=until) for row in kept
        ])  # fmt: skip
        lying = [row.key for model in (Picture, Recording) for tenant in going
                 for row in model.objects.filter(workshop=tenant, data=None).defer("data")]  # fmt: skip
        for tenant in going:
            for model in models_of_workshops():
                _erase(model, tenant.id)
            Leaving.objects.filter(workshop=tenant).delete()
            Workshop.objects.filter(id=tenant.id).delete()
        _forget(people)
    for key in lying:  # gone from the database for good: what stays of it now is known by nobody
        objects.delete(key)
    if settings.MAIL:
        send_mail(f"{workshop.name} is deleted", _told(receipt), None, mails)
    return receipt


def _text(document: dict[str, Any]) -> str:
    return json.dumps(document, ensure_ascii=False, sort_keys=True, indent=1)


def _told(receipt: Receipt) -> str:
    body = _text(receipt.document)
    return f"What you asked for is done. Keep this as your receipt.\n\n{body}\n\nSHA-256 {receipt.sha256}\n"


def _years_after(day: date, years: int) -> date:
    """The end of the year so many years on, as such terms are counted."""
    return date(day.year + years, 12, 31)


def _erase(model: type[Model], workshop_id: UUID) -> None:
    """A workshop's rows of a model, without asking what names them: all that does goes too, and the database holds that
    against its own rules at the end."""
    rows = rows_of(model, workshop_id).order_by()
    rows._raw_delete(rows.db)


def _forget(people: list[UUID]) -> None:
    """Accounts of those who belong to no other workshop; whoever is named in another keeps nothing but that."""
    for person in Person.objects.filter(id__in=people, memberships=None):
        person.sittings.all().delete()
        anonymise(person)


def let_go_of_records() -> int:
    """Delete kept records whose time is over; how many."""
    return KeptRecord.objects.filter(until__lt=timezone.localdate()).delete()[0]
