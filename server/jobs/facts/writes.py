"""What can be added to a job: one function each, one transaction, one line in its history.

A write carries the id its client made. The same id with the same facts is the same write and gives the same answer;
the same id with other facts is a conflict and is shown, never settled silently.
"""

from collections.abc import Callable, Iterable, Sequence
from datetime import datetime
from typing import Any, TypeVar
from uuid import UUID

from django.db import IntegrityError, models, transaction
from django.http import Http404
from django.utils import timezone

from files import recordings
from files.pictures import Made, keep, made_of
from jobs.facts import reads
from jobs.facts.document import core_job
from jobs.facts.later import listen_later
from jobs.facts.timeline import record_happening
from jobs.facts.values import (
    AddedValues,
    CauseValues,
    CountValues,
    DealingValues,
    FindingValues,
    LogValues,
    MarkValues,
    MeterValues,
    ObservationValues,
    PhotoNoteValues,
    PhotoValues,
    ReadingValues,
    SoundValues,
    Values,
    WayValues,
    WorkValues,
)
from jobs.models import (
    AddedStep,
    Cause,
    Count,
    Dealing,
    Fact,
    Finding,
    Job,
    Log,
    Mark,
    MeterTest,
    Photo,
    PhotoNote,
    Reading,
    Sound,
    WayChoice,
    Work,
)
from people.may import Member
from shared.problems import ApiError
from warmdraft.checks import checks
from warmdraft.diagnosis import explains_heat, opened_one_shots
from warmdraft.jobfile.limits import MOST_FACTS
from warmdraft.repair import act_of_step, acts
from warmdraft.teardown import LINE, name_at, step_of
from warmdraft.work import qualification_of

_Row = TypeVar("_Row", bound=Fact)


def plain(row: models.Model, names: Iterable[str]) -> dict[str, Any]:
    return {name: getattr(row, name) for name in names}


def for_history(facts: dict[str, Any]) -> dict[str, Any]:
    return {key: value if isinstance(value, int | float | bool | list | dict | None) else str(value)
            for key, value in facts.items()}  # fmt: skip


#: Most facts of a kind on one job: as many as its file may hold.
_MOST: dict[type[Fact], int] = {
    Reading: MOST_FACTS["readings"], Finding: MOST_FACTS["findings"], MeterTest: MOST_FACTS["meter"],
    Log: MOST_FACTS["logs"], Sound: MOST_FACTS["sounds"], Work: MOST_FACTS["works"],
    AddedStep: MOST_FACTS["added"], Mark: 5_000, Count: 5_000,
    WayChoice: 500, Cause: 500, Photo: 500, PhotoNote: 5_000, Dealing: 800,
}  # fmt: skip


def not_too_many(model: type[Fact], number: int) -> None:
    """Raise the problem of a job that would hold more facts of a kind than any does."""
    most = _MOST[model]
    if number > most:
        raise ApiError(
            422, "too_many", f"A job holds at most {most} of these; hand it over, and open a new one for more work."
        )


def _add_fact(
    model: type[_Row], who: Member, job_id: UUID, fact_id: UUID, values: Values, what: str,
    check: Callable[[Job], None] | None = None,
) -> None:  # fmt: skip
    """Add a fact to a job of the workshop; repeating it is safe, changing it is a conflict."""
    who.require("work_on_a_job")
    facts = values.columns()
    with transaction.atomic():
        job = reads.locked(who, job_id)
        row = model._default_manager.filter(id=fact_id).first()
        if row is not None:
            if row.workshop_id != who.workshop.id:
                raise Http404
            recorded = plain(row, facts)
            if row.job_id == job.id and recorded == facts:
                return
            raise ApiError(
                409,
                "already_recorded",
                "This was recorded before with other facts; look at both and choose.",
                more={"recorded": for_history(recorded), "offered": for_history(facts)},
            )
        not_handed_over(job)
        not_too_many(model, model._default_manager.filter(job=job).count() + 1)
        if check is not None:
            check(job)
        try:
            with transaction.atomic():
                model._default_manager.create(id=fact_id, workshop=who.workshop, job=job, by=who.person, **facts)
        except IntegrityError:
            raise ApiError(
                409, "superseded_meanwhile", "Someone replaced the same fact meanwhile; look at it and choose."
            ) from None
        record_happening(who, job, what, values.at, after=for_history(_said_of(model, facts) | {"id": fact_id}))


def _said_of(model: type[Fact], facts: dict[str, Any]) -> dict[str, Any]:
    """What of a fact goes into the log: all of it, but of a log only how long it ran; its points stand on the job, and
    so does the line that a signature is."""
    if model is Dealing:
        return {key: value for key, value in facts["document"].items() if key != "signature"}
    if model is not Log:
        return facts
    return {key: value for key, value in facts.items() if key != "values"} | {"minutes": facts["minutes"][-1:]}


def not_handed_over(job: Job) -> None:
    if job.shut:
        raise ApiError(
            409,
            "handed_over",
            "This job is handed over; its record stands. Open it again for a new edition, or a new job for more work.",
        )


def _supersedes_within(model: type[Any], supersedes: UUID | None) -> Callable[[Job], None]:
    def check(job: Job) -> None:
        if supersedes is not None and not model.objects.filter(id=supersedes, job=job).exists():
            raise ApiError(
                422, "unknown_fact", "What this replaces is no fact of this job; reload and try again.",
                [{"path": "$.supersedes", "message": "is no fact of this job"}],
            )  # fmt: skip

    return check


def record_reading(who: Member, job_id: UUID, reading_id: UUID, values: ReadingValues) -> None:
    """Add a reading; one that needs a qualification only by someone who has it."""
    who.require_qualified(checks()[values.kind].qualified)
    check = _supersedes_within(Reading, values.supersedes_id)
    _add_fact(Reading, who, job_id, reading_id, values, "reading_recorded", check)


def record_finding(who: Member, job_id: UUID, finding_id: UUID, values: FindingValues) -> None:
    """Add the result of a look, or that it cannot be done here."""
    check = _supersedes_within(Finding, values.supersedes_id)
    _add_fact(Finding, who, job_id, finding_id, values, "finding_recorded", check)


def record_meter(who: Member, job_id: UUID, test_id: UUID, values: MeterValues) -> None:
    """Add what a meter showed; live work only by someone who is qualified for it."""
    who.require_qualified(checks()[f"meter_{values.part}"].qualified)
    check = _supersedes_within(MeterTest, values.supersedes_id)
    _add_fact(MeterTest, who, job_id, test_id, values, "meter_recorded", check)


def record_log(who: Member, job_id: UUID, log_id: UUID, values: LogValues) -> None:
    """Add a log over a run; what is read live only by someone who is qualified for it."""
    require_qualified_to_log(who, values.kind)
    check = _supersedes_within(Log, values.supersedes_id)
    _add_fact(Log, who, job_id, log_id, values, "log_recorded", check)


def photo_of(who: Member, job_id: UUID, body: bytes) -> Made:
    """A photo for a job, made safe to keep: before anything is locked, for decoding takes long."""
    who.require("work_on_a_job")
    reads.bare_job_of(who, job_id)  # 404 before the work of decoding
    return made_of(body)


def add_photo(who: Member, job_id: UUID, photo_id: UUID, made: Made, step: str, at: datetime) -> None:
    """Add a photo."""
    with transaction.atomic():
        values = PhotoValues(picture_id=keep(who, made).id, step=step, at=at)
        _add_fact(Photo, who, job_id, photo_id, values, "photo_added")


def add_sound(
    who: Member, job_id: UUID, sound_id: UUID, body: bytes, observed: ObservationValues, part: str, healthy: bool
) -> None:
    """Add a recording; the worker listens to it. healthy: it is of a machine of the kind that runs well."""
    who.require("work_on_a_job")
    reads.bare_job_of(who, job_id)  # 404 before anything of it is kept
    with transaction.atomic():
        kept = recordings.keep(who, body)
        values = SoundValues(recording_id=kept.id, part=part, healthy=healthy, **observed.columns())
        _add_fact(
            Sound, who, job_id, sound_id, values, "sound_recorded", _supersedes_within(Sound, values.supersedes_id)
        )
        listen_later(sound_id)


def note_photo(who: Member, job_id: UUID, note_id: UUID, values: PhotoNoteValues) -> None:
    """Say of a photo whether the record shows it, and where on it each wire is."""
    with transaction.atomic():
        job = reads.locked(who, job_id)
        photo = job.photos.filter(id=values.photo_id, withdrawn=False).first()
        if photo is None:
            raise Http404
        before = photo.notes.exclude(id=note_id).last()
        chosen = values.on_record != (before is not None and before.on_record)
        what = ("photo_chosen" if values.on_record else "photo_left_out") if chosen else "photo_wires_marked"
        _add_fact(PhotoNote, who, job_id, note_id, values, what)


def withdraw(who: Member, job_id: UUID, fact_id: UUID, withdrawn: bool, at: datetime) -> None:
    """Take a reading or finding back, or put it back; the row and its history stay."""
    who.require("work_on_a_job")
    with transaction.atomic():
        job = reads.locked(who, job_id)
        not_handed_over(job)
        kinds = (
            job.readings,
            job.findings,
            job.metertests,
            job.logs,
            job.sounds,
            job.photos,
            job.works,
            job.addedsteps,
            job.dealings,
        )
        fact = next((found for kind in kinds if (found := kind.filter(id=fact_id).first())), None)
        if fact is None:
            raise Http404
        if isinstance(fact, Work) and not withdrawn and fact.withdrawn:
            _not_ordered_already(job, fact.part, fact.act)
        if fact.withdrawn != withdrawn:
            since = {"withdrawn_at": timezone.now() if withdrawn else None} if isinstance(fact, Photo) else {}
            type(fact)._default_manager.filter(id=fact.id).update(withdrawn=withdrawn, **since)
            what = "fact_withdrawn" if withdrawn else "fact_put_back"
            record_happening(who, job, what, at, after={"id": str(fact_id)})


def require_qualified_to_log(who: Member, kind: str) -> None:
    """Raise the explanation where a log of this kind is work for the qualified: as a reading, or as a log."""
    for name, check in checks().items():
        if name == kind or kind in check.logs:
            who.require_qualified(check.qualified)


def mark_step(who: Member, job_id: UUID, mark_id: UUID, values: MarkValues) -> None:
    """Mark a step done, undone or not possible.

    Work for the qualified is so by itself, whatever is said of the machine at this moment.
    """
    if values.state == "done":
        who.require_qualified(qualification_of(values.step))
    of_line = name_at(LINE, values.step) is not None
    what = f"{LINE if of_line else 'step'}_{values.state}"
    _add_fact(Mark, who, job_id, mark_id, values, what, _agrees_with_lines(values))


def _agrees_with_lines(values: MarkValues) -> Callable[[Job], None]:
    """What is done is not declined, and what is declined is not done: one of the two is taken back first."""

    def check(job: Job) -> None:
        settled = reads.settled_steps(job)
        line = name_at(LINE, values.step)
        mended = name_at("mend", values.step)
        act = act_of_step(mended) if mended is not None and values.state == "done" else None
        against: str | None = None
        if act is not None and (mark := settled.get(step_of(LINE, act.name))) and mark.state != "taken":
            against = "This is declined, or not needed; take that back first, then mark it done."
        if line in acts() and values.state not in ("undone", "taken"):
            steps = [step_of("mend", step.id) for step in acts()[line or ""].steps]
            if any(step in settled and settled[step].state == "done" for step in steps):
                against = "Some of it is marked done; take that back first, then say what became of it."
        if against is not None:
            raise ApiError(409, "against_a_line", against, [{"path": "$.step", "message": "says otherwise"}])

    return check


def order_work(who: Member, job_id: UUID, work_id: UUID, values: WorkValues) -> None:
    """Order an act on a part; what is ordered already is not ordered twice."""

    def check(job: Job) -> None:
        _not_ordered_already(job, values.part, values.act, [{"path": "$.act", "message": "is ordered"}])

    _add_fact(Work, who, job_id, work_id, values, "work_ordered", check)


def _not_ordered_already(job: Job, part: str, act: str, fields: Sequence[dict[str, str]] = ()) -> None:
    """Raise the conflict where an order for this act on this part stands."""
    if job.works.filter(part=part, act=act, withdrawn=False).exists():
        raise ApiError(409, "ordered_already", "This is on the list already.", fields)


def add_operation(who: Member, job_id: UUID, added_id: UUID, values: AddedValues) -> None:
    """Add an operation that stands in no layout; the latest of an operation's id holds."""
    _add_fact(AddedStep, who, job_id, added_id, values, "operation_added")


def deal(who: Member, job_id: UUID, dealing_id: UUID, values: DealingValues) -> None:
    """Say what an old part is, what became of a part, or what the customer agreed to."""
    what = {"old_part": "part_read", "agreement": "agreed", "lint": "lint_found"}.get(
        values.what
    ) or f"part_{values.document['state']}"
    _add_fact(Dealing, who, job_id, dealing_id, values, what)


def count(who: Member, job_id: UUID, count_id: UUID, values: CountValues) -> None:
    """Count something at the bench, or say what became of it."""
    _add_fact(Count, who, job_id, count_id, values, "counted")


def choose_way(who: Member, job_id: UUID, way_id: UUID, values: WayValues) -> None:
    """Say what is wanted of the way in."""
    _add_fact(WayChoice, who, job_id, way_id, values, "way_chosen")


def choose_cause(who: Member, job_id: UUID, cause_id: UUID, values: CauseValues) -> None:
    """Say which cause the work goes by, what one takes it to have been, or what it turned out to be."""
    acts = {"proposed": "propose_a_cause", "confirmed": "confirm_a_cause"}
    who.require(acts.get(values.kind, "work_on_a_job"))

    def check(job: Job) -> None:
        opened = opened_one_shots(core_job(reads.job_of(who, job.id)).case())
        if opened and not explains_heat(values.fault) and not values.heat_unexplained:
            raise ApiError(
                422,
                "victim_not_cause",
                "A thermal fuse or cut-off has blown, and this cause makes no machine too hot. Choose what did, or go "
                "on with “cause of the heat not found”; that sentence then stands on the record.",
                [{"path": "$.fault", "message": "does not say why it got too hot"}],
            )

    _add_fact(Cause, who, job_id, cause_id, values, f"cause_{values.kind}", check)
