"""Places and machines, for choosing one that is known; and the workshop's own code profiles."""

from typing import Any
from urllib.parse import quote, unquote
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from ninja import Router, Schema
from ninja.params.functions import Query

from machines.layouts import document_of, unknown_choice
from machines.models import CodeProfile, Machine, OwnLayout, Place
from machines.queries import PLACES_A_PAGE, code_profiles_of, own_layouts_of, places_like, places_of
from machines.services import keep_code_profile, keep_layout
from people.signed_in import member_of
from shared.body import Body
from shared.pages import key_of, next_page
from shared.problems import ApiError, ProblemOut
from warmdraft.teardown import layout, questions, recognise, variant_seen

router = Router(tags=["machines"])


class KnownMachine(Schema):
    """A dryer."""

    id: UUID
    name: str
    profile: str
    layout: str
    energy: str
    supply: str
    variant: dict[str, str] | None
    age_years: float | None
    version: int


class KnownPlace(Schema):
    """A place and the dryers in it."""

    id: UUID
    name: str
    address: str
    contact: str
    version: int
    machines: list[KnownMachine]

    @staticmethod
    def resolve_machines(place: Any) -> list[Machine]:
        """As many as are named of a place."""
        some: list[Machine] = place.some_machines
        return some


@router.get("/places", response={200: list[KnownPlace], **dict.fromkeys((401, 403, 409, 422), ProblemOut)})
def places(
    request: HttpRequest, response: HttpResponse, q: str = Query("", max_length=120),
    after: str = Query("", max_length=400),
) -> list[Place]:  # fmt: skip
    """Places the workshop knows, by name: a page of all, or those whose name begins with q, or holds it."""
    who = member_of(request)
    if q.strip():
        return places_like(who, q)
    name, place_id = key_of(after, unquote, UUID) if after else ("", None)
    rows = places_of(who, (name, place_id) if place_id else None)
    return next_page(response, rows, PLACES_A_PAGE, lambda place: (quote(place.name.lower(), safe=""), place.id))


class CodeProfileIn(Body):
    """A code profile of the workshop's own, in the keys of warm-draft/vent; removed: no longer offered."""

    document: dict[str, Any]
    removed: bool = False


class CodeProfileKept(Schema):
    """A code profile of the workshop's own."""

    id: UUID
    document: dict[str, Any]
    removed: bool


@router.get("/code-profiles", response={200: list[CodeProfileKept], **dict.fromkeys((401, 403, 409), ProblemOut)})
def code_profiles(request: HttpRequest) -> list[CodeProfile]:
    """The workshop's own code profiles."""
    return list(code_profiles_of(member_of(request)))


@router.put(
    "/code-profiles/{uuid:profile_id}",
    response={200: CodeProfileKept, **dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)},
)
def put_code_profile(request: HttpRequest, profile_id: UUID, facts: CodeProfileIn) -> CodeProfile:
    """Keep, change or remove a code profile of the workshop's own."""
    return keep_code_profile(member_of(request), profile_id, facts.document, facts.removed)


class OwnLayoutIn(Body):
    """A layout of the workshop's own, a `warm-draft/layout` document; removed: no longer offered."""

    document: dict[str, Any]
    removed: bool = False


class OwnLayoutKept(Schema):
    """A layout of the workshop's own."""

    id: UUID
    document: dict[str, Any]
    removed: bool


_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)


@router.get("/layouts", response={200: list[OwnLayoutKept], **_REFUSED})
def own_layouts(request: HttpRequest) -> list[OwnLayout]:
    """The workshop's own layouts."""
    return list(own_layouts_of(member_of(request)))


@router.put("/layouts/{uuid:layout_id}", response={200: OwnLayoutKept, **_REFUSED})
def put_layout(request: HttpRequest, layout_id: UUID, facts: OwnLayoutIn) -> OwnLayout:
    """Keep, change or remove a layout of the workshop's own."""
    return keep_layout(member_of(request), layout_id, facts.document, facts.removed)


#: How a machine may be fed and heated: known of every layout.
_FED = {"energy": Machine.Energy.values, "supply": Machine.Supply.values}


@router.get("/layouts/{name}/file", response={200: dict[str, Any], **_REFUSED})
def layout_file(request: HttpRequest, name: str) -> JsonResponse:
    """A layout as a file, ours in its usual variant but for what is asked (`?energy=gas&front=two`)."""
    who = member_of(request)
    asked = {key: str(value) for key, value in request.GET.items() if value}
    own = {key: value for key, value in asked.items() if key not in _FED}
    unknown = unknown_choice(name, own) or next(
        (key for key, known in _FED.items() if key in asked and asked[key] not in known), None
    )
    if unknown is not None:
        raise ApiError(
            422, "not_possible", f"machines of this layout do not differ so in '{unknown[:40]}'; leave it out"
        )
    found = document_of(who, name, frozenset(asked.items()))
    if found is None:
        raise Http404
    return JsonResponse(found, json_dumps_params={"indent": 1, "ensure_ascii": False})


class LayoutSeen(Schema):
    """A layout and how probable it is after what was looked at; variant: which of it, as far as that was seen."""

    name: str
    variant: dict[str, str]
    title: str
    maker: str
    probability: float
    in_question: bool


class AnswerOut(Schema):
    """An answer to a look."""

    code: str
    text: str


class LookOut(Schema):
    """The look most worth taking next."""

    name: str
    ask: str
    bits: float
    answers: list[AnswerOut]


class RecognisedOut(Schema):
    """Which layout it is likely to be; known: sure enough; none_of_them: nothing fits well, start from the nearest."""

    layouts: list[LayoutSeen]
    next: LookOut | None
    known: bool
    none_of_them: bool


@router.get("/recognise", response={200: RecognisedOut, **_REFUSED})
def which_layout(request: HttpRequest) -> Any:
    """Which layout is this? Answers so far as a query (`?screen=top&drum_rear=rollers`)."""
    language = member_of(request).workshop.speaks
    book = questions(language)
    answers = {key: str(value) for key, value in request.GET.items() if key in book}
    for asked, answer in answers.items():
        if answer not in book[asked].answers:
            given = ", ".join(book[asked].answers)
            raise ApiError(422, "not_possible", f"'{answer[:40]}' is no answer to that; give one of {given}")
    found = recognise(answers, language)
    titled = {name: layout(name, language=language) for name, _ in found.layouts}
    return {
        "layouts": [
            {"name": name, "variant": variant_seen(name, answers), "title": titled[name].title,
             "maker": titled[name].maker, "probability": probability, "in_question": name in found.in_question}
            for name, probability in found.layouts
        ],
        "next": found.next
        and {
            "name": found.next[0].name, "ask": found.next[0].ask, "bits": found.next[1],
            "answers": [{"code": code, "text": text} for code, text in found.next[0].answers.items()],
        },
        "known": found.known,
        "none_of_them": found.none_of_them,
    }  # fmt: skip
