"""Moments: when something happened or is to happen. One rule for files, API and whatever else brings one in.

Between 2000 and 2100: what lies outside is a slip, and not every program that reads a job afterwards can hold it.
"""

from __future__ import annotations

from datetime import UTC, datetime

FIRST = datetime(2000, 1, 1, tzinfo=UTC)
LAST = datetime(2100, 1, 1, tzinfo=UTC)
WANTED = "give date, time and offset, such as 2027-02-03T10:20:00+01:00"


def as_utc(moment: datetime) -> datetime:
    """The moment in UTC. Raises ValueError, with what is wrong, where it has no offset or lies outside 2000 to 2100.

    >>> as_utc(datetime.fromisoformat("2027-02-03T10:20:00+01:00")).isoformat()
    '2027-02-03T09:20:00+00:00'
    """
    if moment.tzinfo is None:
        raise ValueError(f"'{moment.isoformat()}' has no offset; {WANTED}")
    try:
        utc = moment.astimezone(UTC)
    except OverflowError:  # the offset leads out of what a calendar holds
        utc = None
    if utc is None or not FIRST <= utc <= LAST:
        raise ValueError(f"'{moment.isoformat()}' does not lie between 2000 and 2100; {WANTED}")
    return utc


def moment_of(text: str) -> datetime:
    """A moment as text, in UTC. Raises ValueError with what is wrong and what is wanted."""
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        raise ValueError(f"{text!r} is not a moment; {WANTED}") from None
    return as_utc(moment)
