"""Routes of instruments: which there are, and what one reads now."""

from typing import Any

from django.conf import settings
from django.http import Http404, HttpRequest
from ninja import Router, Schema

from instruments.asked import asked
from instruments.scpi import LOW_BATTERY, InstrumentTrouble, configured, dimension_of
from people.signed_in import member_of
from shared.problems import ProblemOut
from warmdraft.answers import Quantity
from warmdraft.units import UNITS
from warmdraft.words import words_for

router = Router(tags=["instruments"])


class InstrumentOut(Schema):
    """An instrument this server can ask."""

    name: str
    text: str
    kinds: list[str]


class LiveReadingOut(Schema):
    """What it reads now; trouble: why there is no number; warning: why to look twice."""

    kind: str
    instrument: str
    value: Quantity | None
    trouble: str | None
    warning: str


@router.get("/instruments", response={200: list[InstrumentOut], **dict.fromkeys((401, 403, 409), ProblemOut)})
def instruments(request: HttpRequest) -> Any:
    """The instruments this server is told of."""
    words = words_for(member_of(request).workshop.speaks)
    return [
        {"name": row.name, "text": words.instrument(row.code), "kinds": row.kinds}
        for row in configured(settings.INSTRUMENTS).values()
    ]


@router.get(
    "/instruments/{name}/reading",
    response={200: LiveReadingOut, **dict.fromkeys((401, 403, 404, 409, 422, 503), ProblemOut)},
)
def reading(request: HttpRequest, name: str, kind: str) -> Any:
    """One reading, now. A cable that is out is no error of the request: it is said in words."""
    member_of(request)
    instrument = configured(settings.INSTRUMENTS).get(name)
    if instrument is None or kind not in instrument.kinds:
        raise Http404
    answer: dict[str, Any] = {"kind": kind, "instrument": instrument.code, "value": None, "trouble": None,
                              "warning": ""}  # fmt: skip
    try:
        found = asked.latest(instrument, kind)
    except InstrumentTrouble as trouble:
        return answer | {"trouble": str(trouble)}
    if found.battery is not None and found.battery < LOW_BATTERY:
        answer["warning"] = f"Battery at {found.battery:.0f} %: change it before believing this."
    return answer | {"value": {"value": found.value, "unit": UNITS[dimension_of(kind)].canonical}}
