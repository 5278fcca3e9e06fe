"""Routes of what a workshop sells: catalogue, vans and shelves, figures; and what a job costs by them."""

from collections.abc import Iterator
from typing import Any, Literal
from urllib.parse import quote, unquote
from uuid import UUID

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Field, Router, Schema, Status
from ninja.params.functions import Query

from jobs.answer import shown
from jobs.answer.kept import known_now
from people.signed_in import member_of
from shared.body import Body, Moment
from shared.pages import NEXT, key_of
from shared.problems import ProblemOut
from shared.sent import sent
from shared.slots import working
from stock import catalogue, figures, shelves
from stock.models import Reckoning
from stock.quotes import quote_of, shop_for
from warmdraft.answers import (
    QuoteAnswer,
    RedrawnAnswer,
    order_lines,
    redrawn_answer,
    run_kinds,
)
from warmdraft.stock import MOST_BYTES, Item
from warmdraft.text import unwritable
from warmdraft.vent import built_of
from warmdraft.work import state_of

router = Router(tags=["stock"])
_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)


class OfferOut(Schema):
    """What a supplier asks for one."""

    supplier: str
    price: str
    days: int | None


class ItemOut(Schema):
    """A number of the catalogue; part: its kind in words; held: how many there are, by van or shelf."""

    number: str
    kind: str
    part: str
    text: str
    original: bool | None
    fits: list[str]
    superseded_by: str
    offers: list[OfferOut]
    held: dict[str, int]


@router.get("/stock/items", response={200: list[ItemOut], **_REFUSED})
def items(
    request: HttpRequest, response: HttpResponse, q: str = Query("", max_length=200),
    kind: str = Query("", max_length=40), after: str = Query("", max_length=200),
) -> Any:  # fmt: skip
    """A page of the catalogue by its numbers, or of what says every word of q; where the next page begins stands in the
    header X-Warm-Next."""
    who = member_of(request)
    (begun,) = key_of(after, unquote) if after else ("",)
    if unwritable([kind, begun]):  # nothing in a database can be called so
        return []
    found = catalogue.found(who, q, begun, kind)
    if len(found) > catalogue.A_PAGE:
        response.headers[NEXT] = quote(found[catalogue.A_PAGE - 1].key, safe="")
    page = found[: catalogue.A_PAGE]
    there, words = shelves.held(who, [item.key for item in page]), shown.words_of(who)

    def one(item: Item) -> dict[str, Any]:
        offers = [{"supplier": row.supplier, "price": str(row.price), "days": row.days} for row in item.offers]
        return {
            "number": item.number, "kind": item.kind, "part": words.thing("part", item.kind), "text": item.text,
            "original": item.original, "fits": list(item.fits), "superseded_by": item.superseded_by, "offers": offers,
            "held": there.get(item.key, {}),
        }  # fmt: skip

    return [one(item) for item in page]


class BroughtOut(Schema):
    """What came of a sheet."""

    numbers: int
    new: int
    changed: int
    removed: int


@router.post("/stock/items", response={200: BroughtOut, **_REFUSED})
def bring_in(request: HttpRequest, whole: bool = False) -> Any:
    """Take a sheet (the body: CSV) into the catalogue, whole or not at all; whole: numbers that it lacks go."""
    who = member_of(request)
    # longer than other bodies may be; what is beyond it is not read
    return catalogue.bring_in(who, request.read(MOST_BYTES + 1), whole)


def _sheet(lines: Iterator[str], name: str) -> StreamingHttpResponse:
    answer = StreamingHttpResponse((line.encode() for line in lines), content_type="text/csv; charset=utf-8")
    answer.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


@router.get("/stock/items.csv", response={200: None, **_REFUSED})
def items_as_csv(request: HttpRequest) -> Any:
    """The whole catalogue as the sheet that brings it in."""
    return _sheet(catalogue.written_out(member_of(request)), "parts.csv")


class ShelfOut(Schema):
    """A van or shelf; counts: by number, what it holds."""

    id: UUID
    name: str
    counts: dict[str, int]


@router.get("/stock/stores", response={200: list[ShelfOut], **_REFUSED})
def stores(request: HttpRequest) -> Any:
    """Vans and shelves, and what they hold."""
    return shelves.shelves(member_of(request))


class StoreIn(Body):
    """A van or shelf; removed: no longer there."""

    name: str = Field(min_length=1, max_length=60, pattern=r"\S")
    removed: bool = False


@router.put("/stock/stores/{uuid:store_id}", response={204: None, **_REFUSED})
def put_store(request: HttpRequest, store_id: UUID, body: StoreIn) -> Status[None]:
    """Add a van or shelf, or take one away."""
    shelves.keep_store(member_of(request), store_id, body.name, body.removed)
    return Status(204, None)


class MovementIn(Body):
    """How many of a number were put into a store; below nothing: taken out."""

    store: UUID
    number: str = Field(min_length=1, max_length=60)
    change: int = Field(ge=-10_000, le=10_000)
    at: Moment


@router.put("/stock/movements/{uuid:movement_id}", response={204: None, **_REFUSED})
def put_movement(request: HttpRequest, movement_id: UUID, body: MovementIn) -> Status[None]:
    """Put something into a van or shelf, or take it out."""
    shelves.move(member_of(request), movement_id, body.store, body.number, body.change, body.at)
    return Status(204, None)


class FiguresPart(Schema):
    """What a workshop reckons by; sums are texts with a point, empty where nothing is said."""

    hour: str = Field("", max_length=20)
    call_out: str = Field("", max_length=20)
    second_trip: str = Field("", max_length=20)
    delivery: str = Field("", max_length=20)
    machine: str = Field("", max_length=20)
    assembly: str = Field("", max_length=20)
    kwh: str = Field("", max_length=20)
    markup_percent: str = Field("", max_length=20)
    tax_percent: str = Field("", max_length=20)
    taxed: Literal["all", "parts", "labour"] = "all"
    rounds: Literal["line", "total"] = "total"


class FiguresOut(FiguresPart):
    """The figures, and the version that a change of them is based on."""

    version: int


class FiguresIn(FiguresPart, Body):
    """Figures as they are to be."""

    based_on: int


def _figures(row: Reckoning | None) -> dict[str, Any]:
    return (row.document if row else {}) | {"version": row.version if row else 1}


@router.get("/stock/figures", response={200: FiguresOut, **_REFUSED})
def get_figures(request: HttpRequest) -> Any:
    """What the workshop reckons a job by."""
    return _figures(Reckoning.objects.filter(workshop=member_of(request).workshop).first())


@router.put("/stock/figures", response={200: FiguresOut, **_REFUSED})
def put_figures(request: HttpRequest, body: FiguresIn) -> Any:
    """Change what the workshop reckons a job by."""
    given = body.dict()
    return _figures(figures.keep(member_of(request), given, given.pop("based_on")))


def _quote(request: HttpRequest, job_id: UUID) -> QuoteAnswer:
    _, quote = quote_of(member_of(request), job_id)
    return quote


@router.get("/jobs/{uuid:job_id}/quote", response={200: QuoteAnswer, **_REFUSED})
def job_quote(request: HttpRequest, job_id: UUID) -> Any:
    """What a job costs, what to bring to it, what to order, what the customer agreed to."""
    return sent(_quote(request, job_id))


@router.get("/jobs/{uuid:job_id}/ways-out", response={200: RedrawnAnswer | None, **_REFUSED})
def ways_out(
    request: HttpRequest, job_id: UUID, diameter_in: float = Query(4, ge=3, le=8),
    material: Literal["galvanised", "aluminium"] = "galvanised", bend: Literal["mitred", "smooth"] = "smooth",
    radius_in: float = Query(6, ge=3, le=12),
) -> Any:  # fmt: skip
    """The ways of this job's plan out of the house, built so: what each loses, gives, takes and costs."""
    who = member_of(request)
    known = known_now(who, job_id)
    build = built_of(diameter_in, material, bend, radius_in)
    with working:
        state = state_of(known.facts, shown.viewer_of(who))
    shop = shop_for(who, known.job, run_kinds())
    with working:
        answer = redrawn_answer(state, build, shop, shown.words_of(who))
    return sent(answer)


@router.get("/jobs/{uuid:job_id}/order.csv", response={200: None, **_REFUSED})
def job_order(request: HttpRequest, job_id: UUID) -> Any:
    """What a job has to have ordered, as a sheet."""
    return _sheet(order_lines(_quote(request, job_id)), "order.csv")
