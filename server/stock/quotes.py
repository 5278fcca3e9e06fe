"""A job's quote: its state beside what the workshop sells and holds."""

from collections.abc import Iterable
from uuid import UUID

from jobs.answer import shown
from jobs.answer.kept import known_now
from jobs.facts.inputs import PLATE
from jobs.models import Job
from people.may import Member
from shared.slots import working
from stock import catalogue, figures, shelves
from warmdraft.answers import QuoteAnswer, Shop, kinds_needed, quote_answer
from warmdraft.faults import loads_taken
from warmdraft.work import JobState, state_of


def shop_for(who: Member, job: Job, kinds: Iterable[str]) -> Shop:
    """The workshop as far as these kinds of parts ask of it."""
    plate = str((job.machine.data_plate.get(PLATE) or {}).get("number", ""))
    said = [row.document.get("number", "") for row in job.dealings.all() if row.what == "part"]
    found = catalogue.serving(who, sorted(kinds), plate, said)
    there = shelves.held(who, [item.key for item in found])
    loads = loads_taken(job.machine.loads_per_week, job.circumstances)
    return Shop(figures.figures_of(who.workshop), found, there, plate, loads)


def quote_of(who: Member, job_id: UUID) -> tuple[JobState, QuoteAnswer]:
    """A job as it stands, and what it costs, asks to bring and to order; 404 where it is not this workshop's."""
    known = known_now(who, job_id)
    with working:
        state = state_of(known.facts, shown.viewer_of(who))
    return state, quote_answer(state, shop_for(who, known.job, kinds_needed(state)), shown.words_of(who))
