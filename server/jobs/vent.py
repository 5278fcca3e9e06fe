"""Routes of the vent: the run as it is drawn, the plan of a new one, the room around it, a duct shared with others."""

from collections.abc import Callable
from typing import Any, Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router
from ninja.params.functions import Query

from jobs.answer import shown
from jobs.answer.kept import known_now, written
from jobs.answer.shown import WorkshopJob
from jobs.facts import bodies, inputs, opening
from people.signed_in import member_of
from shared.problems import ProblemOut
from shared.sent import sent
from shared.slots import working
from warmdraft.answers import (
    ClearanceAnswer,
    MakeupAnswer,
    RiserAnswer,
    RiserAsked,
    clearance_answer,
    makeup_answer,
    riser_answer,
)
from warmdraft.vent import MOST_TAPS, Joins
from warmdraft.words import Words
from warmdraft.work import JobState, state_of

router = Router(tags=["jobs"])
_REFUSED = dict.fromkeys((401, 403, 404, 409, 413, 422, 503), ProblemOut)
_TYPED = Query("", max_length=30)


def _told(request: HttpRequest, job_id: UUID, ask: Callable[[JobState, Words], Any]) -> HttpResponse:
    """What the core says of a job as it stands, in who asks' words."""
    who = member_of(request)
    facts = known_now(who, job_id).facts
    with working:
        answer = ask(state_of(facts, shown.viewer_of(who)), shown.words_of(who))
    return sent(answer)


@router.put("/jobs/{uuid:job_id}/vent", response={200: WorkshopJob, **_REFUSED})
def put_run(request: HttpRequest, job_id: UUID, body: bodies.RunIn) -> Any:
    """Put the vent run as it is drawn in place of the one before."""
    who = member_of(request)
    return written(
        who, job_id, lambda: opening.draw(who, job_id, "vent", inputs.checked_run(body.vent), body.based_on, body.at)
    )


@router.put("/jobs/{uuid:job_id}/plan", response={200: WorkshopJob, **_REFUSED})
def put_plan(request: HttpRequest, job_id: UUID, body: bodies.PlanIn) -> Any:
    """Put the plan of a new run as it is drawn in place of the one before."""
    who = member_of(request)
    return written(
        who, job_id, lambda: opening.draw(who, job_id, "plan", inputs.checked_plan(body.plan), body.based_on, body.at)
    )


@router.get("/jobs/{uuid:job_id}/clearance", response={200: ClearanceAnswer, **_REFUSED})
def clearance(
    request: HttpRequest, job_id: UUID, joins: Joins, diameter_in: float = Query(4, ge=3, le=8), recess: str = _TYPED,
    stands_out: str = _TYPED,
) -> Any:  # fmt: skip
    """How far back the machine may go before its transition is crushed, by what is behind it as typed."""
    return _told(
        request, job_id, lambda state, words: clearance_answer(state, joins, diameter_in, recess, stands_out, words)
    )


@router.get("/jobs/{uuid:job_id}/makeup", response={200: MakeupAnswer, **_REFUSED})
def makeup(
    request: HttpRequest, job_id: UUID, opening_free: float = Query(ge=0.1, le=100_000), grille: bool = False,
    others: str = _TYPED, closet: bool = False,
) -> Any:  # fmt: skip
    """The air the machine takes out of its room, by its opening (in the squares the person measures in) and what other
    fans take."""
    return _told(
        request, job_id, lambda state, words: makeup_answer(state, opening_free, grille, others, closet, words)
    )


@router.get("/jobs/{uuid:job_id}/riser", response={200: RiserAnswer, **_REFUSED})
def riser(
    request: HttpRequest, job_id: UUID, machines: int = Query(ge=1, le=MOST_TAPS),
    diameter_in: float = Query(6, ge=3, le=24), storey: str = _TYPED, lateral: str = _TYPED,
    lateral_bends: int = Query(1, ge=0, le=10), end: str = _TYPED, fan: str = _TYPED,
    hood: Literal["flap", "open"] = "open",
) -> Any:  # fmt: skip
    """What each of so many machines like this one gets on a shared riser, when one, some, all of them run."""
    asked = RiserAsked(machines, diameter_in, storey, lateral, lateral_bends, end, fan, hood)
    return _told(request, job_id, lambda state, words: riser_answer(state, asked, words))
