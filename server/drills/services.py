"""Setting, beginning, asking and ending drills.

A drill is a job of a room beside the workshop: a tenant of its own, so that no list, figure, lesson or calendar of the
workshop can ever hold it.
"""

import secrets
from dataclasses import asdict, replace
from typing import Any
from uuid import UUID, uuid5

from django.db import IntegrityError, transaction
from django.db.models import F, QuerySet
from django.http import Http404
from django.utils import timezone

from drills.models import Drill, DrillCase
from jobs.answer.kept import known_now, write_summary
from jobs.answer.shown import words_of
from jobs.answer.taught import turn
from jobs.facts import opening, reads
from jobs.facts.document import job_document
from jobs.facts.values import JobValues, MachineValues, PlaceValues
from jobs.models import Job, Reading
from people.may import Member
from people.models import Membership, Workshop
from shared.ids import id_in
from shared.problems import ApiError
from shared.slots import working
from stock.figures import figures_of
from warmdraft.answers import (
    FoundAnswer,
    GaveAnswer,
    case_of_past,
    case_of_rung,
    drilled_answer,
    gave,
    hidden_in,
    hidden_wrong,
    ladder_answer,
)
from warmdraft.drill import Hidden, World, after, drilled, ladder
from warmdraft.jobfile import read_job
from warmdraft.stock import Priced, quoted

#: Seeds a case is drawn from: any that JSON holds exactly.
_SEEDS = 2**31
#: Drills that a screen shows.
MOST_DRILLS = 100


def room_of(who: Member) -> Workshop:
    """The room for drills beside a person's workshop; made when it is first gone to."""
    own = who.workshop.practice_of or who.workshop
    with transaction.atomic():
        room, made = Workshop.objects.get_or_create(
            practice_of=own,
            defaults={"name": own.name, "time_zone": own.time_zone, "currency": own.currency, "language": own.language},
        )  # fmt: skip
        if made:
            turn(room.id, on=False)  # what is simulated teaches nobody
        Membership.objects.update_or_create(
            person=who.person, workshop=room, defaults={"role": who.role, "qualifications": sorted(who.qualifications)}
        )
    return room


def begin(who: Member, job_id: UUID, case: str) -> Drill:
    """Begin a case: the job it is worked as. The same id again is the same drill. Raises DocumentError."""
    if case in ladder():
        title, (document, lies) = words_of(who).rung(case), case_of_rung(case)
    else:
        case_id = id_in(case)
        row = case_id and _cases(who).filter(id=case_id).first()
        if not row:
            raise Http404
        title, document, lies = row.title, row.document, {}
    room = room_of(who)
    inside = Member(who.person, room, who.role, who.qualifications)
    with transaction.atomic():
        known = Drill.objects.filter(job=job_id, workshop=room, person=who.person).first()
        if known is not None:
            return known
        _open(inside, job_id, title, document)
        try:
            with transaction.atomic():
                return Drill.objects.create(
                    job_id=job_id, workshop=room, person=who.person, case=case, title=title, document=document,
                    lies=lies, seed=secrets.randbelow(_SEEDS),
                )  # fmt: skip
        except IntegrityError:  # somebody else's
            raise Http404 from None


def _open(who: Member, job_id: UUID, title: str, document: dict[str, Any]) -> None:
    """The job as it comes: what anybody may see of the case."""
    now = timezone.now()
    core, machine = read_job(document), document.get("machine", {})
    facts = core.facts
    carried: dict[str, Any] = {key: document[key] for key in ("air", "vent") if key in document}
    values = JobValues("", list(facts.complaints), list(facts.circumstances), {}, "", now, carried)
    opening.put_job(
        who, job_id, values,
        MachineValues(
            id=uuid5(job_id, "machine"), name="", profile=facts.machine.profile, layout=machine.get("layout", ""),
            energy=facts.machine.heat.energy, supply=facts.connection, variant=machine.get("variant"),
            age_years=machine.get("age_years"),
            data_plate={key: machine[key] for key in ("airway", "heat", "drive") if key in machine},
        ),
        PlaceValues(uuid5(job_id, "place"), title, "", ""), based_on=None, at=now,
    )  # fmt: skip
    write_summary(who, job_id)


def _drill(who: Member, job_id: UUID) -> Drill:
    found = Drill.objects.filter(job=job_id, workshop=who.workshop).select_related("person").first()
    if found is None:
        raise Http404
    return found


def hidden_of(drill: Drill) -> Hidden:
    """What nobody is told."""
    return hidden_in(read_job(drill.document), drill.seed, drill.lies)


def ask(who: Member, job_id: UUID, check: str, phase: str) -> GaveAnswer:
    """What the machine gives to a check, as it stands by then. Raises DocumentError for what no drill answers."""
    drill = _drill(who, job_id)
    if drill.ended_at:
        raise ApiError(409, "drill_is_over", "This drill is over; begin it anew to ask the machine.")
    facts = known_now(who, job_id).facts
    times = Reading.objects.filter(job=job_id, kind=check, phase=phase).count()
    hidden = hidden_of(drill)
    with working:
        return gave(World(after(hidden, facts) if phase == "after" else hidden), check, times)


def end(who: Member, job_id: UUID) -> Drill:
    """End a drill: from now on its job stands as it is, and how it went may be read. Ended again, nothing changes."""
    drill = _drill(who, job_id)
    if drill.person_id != who.person.id:
        raise ApiError(403, "not_yours", "This drill is somebody else's; they end it themselves.")
    facts = known_now(who, job_id).facts
    # whoever mended something and goes has handed it over
    facts = replace(facts, handed_over=facts.handed_over or any(row.kind == "working" for row in facts.causes))
    hidden = hidden_of(drill)
    with working:
        told = asdict(drilled_answer(drilled(facts, hidden, who.qualifications), words_of(who)))
    with transaction.atomic():
        reads.locked(who, job_id)
        if Drill.objects.filter(job=job_id, ended_at=None).update(ended_at=timezone.now(), answer=told):
            Job.objects.filter(id=job_id).update(shut=True, version=F("version") + 1)
            write_summary(who, job_id)
    return _drill(who, job_id)


def found_in(drill: Drill, who: Member) -> list[FoundAnswer]:
    """What was hidden; nothing while the drill is on."""
    return hidden_wrong(hidden_of(drill), words_of(who)) if drill.ended_at else []


def costs_of(drill: Drill, who: Member) -> tuple[str | None, str | None]:
    """What the work of a drill costs by the workshop's own hour, and what the tool's way would; None while it is on, or
    where nobody has said what an hour costs."""
    figures = figures_of(who.workshop.practice_of or who.workshop)
    if drill.answer is None or figures.hour is None:
        return None, None
    own, better = (quoted([Priced("", drill.answer[key])], figures).net for key in ("minutes", "better_minutes"))
    return str(own), str(better)


def drill_of(who: Member, job_id: UUID) -> Drill:
    """A drill of the room beside this workshop, one's own; a lead sees all."""
    own = who.workshop.practice_of or who.workshop
    found = Drill.objects.filter(job=job_id, workshop__practice_of=own).select_related("person").first()
    if found is None or (found.person_id != who.person.id and not who.may("set_drills")):
        raise Http404
    return found


def drills_of(who: Member) -> QuerySet[Drill]:
    """Drills of this person, of everybody's for a lead; the latest first."""
    own = who.workshop.practice_of or who.workshop
    found = Drill.objects.filter(workshop__practice_of=own).select_related("person").order_by("-began_at")
    return found if who.may("set_drills") else found.filter(person=who.person)


def _cases(who: Member) -> QuerySet[DrillCase]:
    return DrillCase.objects.filter(workshop=who.workshop.practice_of or who.workshop, removed=False)


def cases_of(who: Member) -> QuerySet[DrillCase]:
    """The cases that leads set, the latest first."""
    return _cases(who).select_related("made_by").order_by("-made_at")


def rungs(who: Member) -> list[Any]:
    """The ladder."""
    return list(ladder_answer(words_of(who)))


def set_case(who: Member, case_id: UUID, job_id: UUID, title: str) -> None:
    """Make a case of a job that was proven; no name of it is taken along. Raises DocumentError where no cause is
    confirmed; the same id again changes nothing."""
    who.require("set_drills")
    document = case_of_past(job_document(reads.job_of(who, job_id)))
    made, _ = DrillCase.objects.get_or_create(
        id=case_id, defaults={"workshop": who.workshop, "title": title, "document": document, "made_by": who.person}
    )
    if made.workshop_id != who.workshop.id:
        raise Http404


def remove_case(who: Member, case_id: UUID) -> None:
    """Take a case away; drills that were worked on it stay."""
    who.require("set_drills")
    if not _cases(who).filter(id=case_id).update(removed=True):
        raise Http404
