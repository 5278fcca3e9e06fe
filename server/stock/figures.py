"""What a workshop reckons a job by: exact sums, changed by its lead, each change in the log."""

from decimal import Decimal, InvalidOperation
from typing import Any

from django.db import transaction

from people.may import Member
from people.models import Act, Workshop
from shared.problems import ApiError
from stock.models import Reckoning
from warmdraft.stock import Figures

#: Sums that a workshop may leave out, and those that are nothing then.
_OPTIONAL = ("hour", "second_trip", "machine", "assembly", "kwh")
_SUMS = (*_OPTIONAL, "call_out", "delivery", "markup_percent", "tax_percent")
_MOST, _MOST_PERCENT, _MOST_DECIMALS = Decimal(1_000_000), Decimal(1_000), 4


def figures_of(workshop: Workshop) -> Figures:
    """The figures of a workshop in its currency."""
    row = Reckoning.objects.filter(workshop=workshop).first()
    document = row.document if row else {}
    said: dict[str, Any] = {key: Decimal(value) if key in _SUMS else value for key, value in document.items()
                            if value != ""}  # fmt: skip
    return Figures(workshop.currency, **said)


def keep(who: Member, given: dict[str, Any], based_on: int) -> Reckoning:
    """Change the figures; based_on: the version that was shown. Raises ApiError."""
    who.require("keep_the_workshop")
    document = {key: _exact(key, value) if key in _SUMS else value for key, value in given.items()}
    with transaction.atomic():
        Workshop.objects.select_for_update().only("id").get(id=who.workshop.id)
        row, _ = Reckoning.objects.get_or_create(workshop=who.workshop)
        if row.document == document:
            return row
        if row.version != based_on:
            raise ApiError(409, "changed_meanwhile", "Someone changed the figures meanwhile; look at them again.")
        Act.objects.create(
            workshop=who.workshop, by=who.person, what="figures_changed", before=row.document, after=document
        )
        row.document, row.version = document, row.version + 1
        row.save()
    return row


def _exact(key: str, value: str) -> str:
    said = value.strip()
    if not said:
        return ""
    most = _MOST_PERCENT if key.endswith("_percent") else _MOST
    try:
        number = Decimal(said)
    except InvalidOperation:
        number = Decimal(-1)
    decimals = number.as_tuple().exponent
    if not (number.is_finite() and 0 <= number <= most and isinstance(decimals, int) and decimals >= -_MOST_DECIMALS):
        message = f"'{said[:30]}' is no sum; give a number with a decimal point, such as 12.50"
        raise ApiError(422, "not_possible", message, [{"path": f"$.{key}", "message": message}])
    return str(number)
