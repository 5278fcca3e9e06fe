"""A checked document's facts as the plain values that the core computes with."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any, cast

from warmdraft.air import ROOM_TEMPERATURE_C, AirState
from warmdraft.airway import reading_dimensions
from warmdraft.errors import DocumentError, LayoutError, VentError
from warmdraft.jobfile.hands_schema import AddedSection, CountSection, MarkSection, WaySection, WorkSection
from warmdraft.jobfile.parts import FactSection
from warmdraft.jobfile.plan_schema import PlanSection
from warmdraft.jobfile.runs import code_profile_of, run_of
from warmdraft.jobfile.schema import (
    CauseSection,
    FindingSection,
    JobDocument,
    LogSection,
    MachineSection,
    MeterFactSection,
    ObservationSection,
    ReadingSection,
    SoundSection,
)
from warmdraft.jobfile.stock_schema import AgreementSection, LintSection, OldPartSection, PartSaidSection
from warmdraft.jobfile.vent_schema import VentSection
from warmdraft.machine import Machine
from warmdraft.moments import moment_of
from warmdraft.teardown import Layout, Tally, choices_of, layout, layout_names, layout_of, operation_of
from warmdraft.units import to_si
from warmdraft.work import (
    Added,
    Agreement,
    Cause,
    Counted,
    DrawnRun,
    Finding,
    JobFacts,
    LintFound,
    Logged,
    Mark,
    Metered,
    NewRun,
    OldPart,
    Ordered,
    PartSaid,
    Reading,
    Sounded,
    WayChoice,
)
from warmdraft.work.recorded import CauseKind, Connection, MarkState, PartState


def _fact(part: FactSection) -> dict[str, Any]:
    return {"id": part.id, "by": part.by or "", "at": None if part.at is None else moment_of(part.at)}


def _observation(part: ObservationSection, withdrawn: bool) -> dict[str, Any]:
    return _fact(part) | {
        "phase": part.phase or "before", "heat_on": bool(part.heat_on), "supersedes": part.supersedes,
        "withdrawn": withdrawn,
    }  # fmt: skip


def _extra(part: FactSection, key: str) -> str:
    """A text that our own files keep beside a fact."""
    said = (part.model_extra or {}).get(key)
    return said if isinstance(said, str) else ""


def reading_of(part: ReadingSection, withdrawn: bool = False) -> Reading:
    """A reading, its number also in its kind's canonical unit."""
    canonical = to_si(part.value, part.unit, reading_dimensions()[part.kind])
    return Reading(
        kind=part.kind, value=part.value, unit=part.unit, canonical=canonical, typed=_extra(part, "x-typed"),
        instrument=part.instrument or "", **_observation(part, withdrawn),
    )  # fmt: skip


def finding_of(part: FindingSection, withdrawn: bool = False) -> Finding:
    """What a look gave."""
    return Finding(check=part.check, result=part.result, why=_extra(part, "x-why"), **_observation(part, withdrawn))


def metered_of(part: MeterFactSection, withdrawn: bool = False) -> Metered:
    """What a meter showed."""
    return Metered(
        test=part.test(), isolated=part.isolated, between=part.between, typed=_extra(part, "x-typed"),
        **_observation(part, withdrawn),
    )  # fmt: skip


def logged_of(part: LogSection, withdrawn: bool = False) -> Logged:
    """A reading over a run."""
    return Logged(
        series=part.series(), unit=part.unit, instrument=part.instrument or "", **_observation(part, withdrawn)
    )


def sounded_of(part: SoundSection, withdrawn: bool = False) -> Sounded:
    """What a recording told."""
    return Sounded(
        heard=part.told(), part=part.part or "", seconds=part.seconds, clipped=part.clipped, healthy=bool(part.healthy),
        **_observation(part, withdrawn),
    )  # fmt: skip


def _new_run(part: PlanSection | None) -> NewRun | None:
    try:
        return None if part is None else part.new_run()
    except VentError as error:
        raise DocumentError("$.plan", str(error)) from None


def _mark(part: MarkSection) -> Mark:
    return Mark(step=part.step, state=cast(MarkState, part.state), why=part.why or "", **_fact(part))


def _ordered(part: WorkSection, withdrawn: bool = False) -> Ordered:
    return Ordered(part=part.part, act=part.act, why=part.why or "", withdrawn=withdrawn, **_fact(part))


def _added(part: AddedSection, withdrawn: bool = False) -> Added:
    operation = operation_of(part.operation.model_dump(exclude_none=True))
    return Added(operation=operation, after=part.after, withdrawn=withdrawn, **_fact(part))


def _old_part(part: OldPartSection, withdrawn: bool = False) -> OldPart:
    return OldPart(marks=part.marks.part(), withdrawn=withdrawn, **_fact(part))


def _part_said(part: PartSaidSection) -> PartSaid:
    return PartSaid(
        part=part.part, state=cast(PartState, part.state), number=part.number or "", count=part.count or 1,
        price=part.price, store=part.store or "", **_fact(part),
    )  # fmt: skip


def _agreement(part: AgreementSection, withdrawn: bool = False) -> Agreement:
    return Agreement(
        lines=tuple(part.lines), total=part.total, currency=part.currency, name=part.name or "",
        signature=part.signature or "", withdrawn=withdrawn, **_fact(part),
    )  # fmt: skip


def _lint(part: LintSection, withdrawn: bool = False) -> LintFound:
    return LintFound(
        act=part.act, grade=part.grade, grams=part.grams, objects=part.objects or "", withdrawn=withdrawn, **_fact(part)
    )


def _counted(part: CountSection) -> Counted:
    count = 1 if part.count is None else part.count
    tally = Tally(part.step or "", part.what, part.key, part.state, count, part.note or "", part.by or "")
    return Counted(tally=tally, **_fact(part))


def _way(part: WaySection) -> WayChoice:
    return WayChoice(
        also=None if part.also is None else tuple(part.also),
        avoid=tuple(part.avoid or ()),
        through=tuple(part.through or ()),
        **_fact(part),
    )


def _cause(part: CauseSection) -> Cause:
    return Cause(
        kind=cast(CauseKind, part.kind), fault=part.fault, severity=part.severity,
        heat_unexplained=bool(part.heat_unexplained), **_fact(part),
    )  # fmt: skip


def _causes(document: JobDocument) -> tuple[Cause, ...]:
    """What was said of causes; what a file only confirms was said of one."""
    said = tuple(map(_cause, document.causes or ()))
    if any(cause.kind == "confirmed" for cause in said):
        return said
    confirmed = document.confirmed or ()
    return said + tuple(Cause(kind="confirmed", fault=part.fault, severity=part.severity) for part in confirmed)


def drawn_run(part: VentSection) -> DrawnRun:
    """A vent run as the core judges it. Raises VentError."""
    return DrawnRun(
        run=run_of(part),
        names=tuple(piece.piece for piece in part.pieces),
        code_profile=code_profile_of(part),
        flow_m3s=part.flow.si("flow") if part.flow else None,
        air_temperature_c=part.air_temperature.si("temperature") if part.air_temperature else ROOM_TEMPERATURE_C,
    )


def _layout(document: JobDocument, machine: Machine, connection: Connection) -> Layout | None:
    """The way into the machine: as the file brings it along, else ours of that name for this variant."""
    if document.layout is not None:
        try:
            return layout_of(document.layout.model_dump(exclude_none=True))
        except LayoutError as error:
            raise DocumentError(f"$.layout.operations{error.at}", str(error)) from None
    name = machine.layout or ""
    if name not in layout_names():
        return None
    variant = (document.machine or MachineSection()).variant or {}
    _check_variant(name, variant)
    said = {"energy": machine.heat.energy, "supply": connection} | variant
    return layout(name, frozenset(said.items()))


def _check_variant(name: str, variant: Mapping[str, str]) -> None:
    choices = {choice.name: choice for choice in choices_of(name)}
    for what, answer in variant.items():
        if what not in choices:
            raise DocumentError("$.machine.variant", f"machines of '{name}' do not differ in '{what}'; leave it out")
        if answer not in choices[what].answers:
            wanted = ", ".join(choices[what].answers)
            raise DocumentError(f"$.machine.variant.{what}", f"'{answer}' is not known; give one of {wanted}")


def facts_of(
    document: JobDocument, machine: Machine, kinds: tuple[tuple[Machine, float], ...], air: AirState | None
) -> JobFacts:
    """All facts of a checked document. Raises DocumentError where its layout contradicts itself."""
    said = document.machine or MachineSection()
    connection: Connection = "hard_wired" if said.connection == "hard_wired" else "plug"
    back = document.withdrawn
    facts = JobFacts(
        machine=machine,
        kinds=kinds,
        air_told=air,
        connection=connection,
        supply_named=said.supply,
        circumstances=tuple(document.circumstances or ()),
        complaints=tuple(document.complaints or ()),
        readings=tuple(map(reading_of, document.readings or ())),
        findings=tuple(map(finding_of, document.findings or ())),
        meter=tuple(map(metered_of, document.meter or ())),
        logs=tuple(map(logged_of, document.logs or ())),
        sounds=tuple(map(sounded_of, document.sounds or ())),
        sounds_healthy=tuple(said.sounds_healthy or ()),
        works=tuple(map(_ordered, document.works or ())),
        added=tuple(map(_added, document.added or ())),
        marks=tuple(map(_mark, document.marks or ())),
        counts=tuple(map(_counted, document.counts or ())),
        ways=tuple(map(_way, document.ways or ())),
        causes=_causes(document),
        old_parts=tuple(map(_old_part, document.old_parts or ())),
        parts=tuple(map(_part_said, document.parts or ())),
        agreements=tuple(map(_agreement, document.agreements or ())),
        lint=tuple(map(_lint, document.lint or ())),
        run=None if document.vent is None else drawn_run(document.vent),
        new_run=_new_run(document.plan),
        layout=_layout(document, machine, connection),
        handed_over=bool(document.handed_over),
    )
    if back is None:
        return facts
    return replace(
        facts,
        readings=facts.readings + tuple(reading_of(part, True) for part in back.readings or ()),
        findings=facts.findings + tuple(finding_of(part, True) for part in back.findings or ()),
        meter=facts.meter + tuple(metered_of(part, True) for part in back.meter or ()),
        logs=facts.logs + tuple(logged_of(part, True) for part in back.logs or ()),
        sounds=facts.sounds + tuple(sounded_of(part, True) for part in back.sounds or ()),
        works=facts.works + tuple(_ordered(part, True) for part in back.works or ()),
        added=facts.added + tuple(_added(part, True) for part in back.added or ()),
        old_parts=facts.old_parts + tuple(_old_part(part, True) for part in back.old_parts or ()),
        agreements=facts.agreements + tuple(_agreement(part, True) for part in back.agreements or ()),
        lint=facts.lint + tuple(_lint(part, True) for part in back.lint or ()),
    )
