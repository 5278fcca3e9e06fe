"""The customer's record as a paper: titles, sentences, tables, bars; no more than a printer needs to know."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from typing import Literal

from warmdraft.airway import reading_dimensions
from warmdraft.paper.advice import advice_for
from warmdraft.paper.says import Says
from warmdraft.proof import Comparison
from warmdraft.repair import Act
from warmdraft.upkeep import Upkeep
from warmdraft.vent import Elbow, Flexible, Hood, Straight
from warmdraft.words import words_for
from warmdraft.work import JobState
from warmdraft.work.cost import LEAST_SAVED_KWH, Saved, Tariff, saved_of


@dataclass(frozen=True, slots=True)
class About:
    """What of a record is no fact of the job: whose it is, for whom, when; in people's own words."""

    workshop: str
    technician: str
    place: tuple[str, ...]
    machine: str
    day: date
    said: str = ""
    note: str = ""
    override: str = ""
    minutes: float | None = None
    found: tuple[str, ...] = ()
    fitted: tuple[tuple[str, str, int], ...] = ()
    left: tuple[str, ...] = ()


@dataclass(slots=True)
class Bar:
    """A bar of the picture: what, how much in words, and its share of the longest."""

    label: str
    value: str
    share: float


@dataclass(slots=True)
class PaperTable:
    """Head and rows, as they are printed."""

    head: list[str]
    rows: list[list[str]]


@dataclass(slots=True)
class PaperSection:
    """A part of the paper. strong: the sentence that counts; points: a list; table, bars: None and none where there is
    none; run: pieces of the vent in order, (what it is drawn as, what it says)."""

    name: str
    title: str
    strong: str = ""
    texts: list[str] = field(default_factory=list)
    points: list[str] = field(default_factory=list)
    table: PaperTable | None = None
    bars: list[Bar] = field(default_factory=list)
    limit: Bar | None = None
    run: list[tuple[str, str]] = field(default_factory=list)


@dataclass(slots=True)
class Paper:
    """The whole of it in one language."""

    language: str
    title: str
    workshop: str
    day: str
    lines: list[str]
    sections: list[PaperSection]
    photos: str
    signed: str
    online: str
    foot: str
    #: "{sha}", "{edition}" and "{day}" stand in it: they are known only once it is frozen.
    checksum: str


def paper_of(state: JobState, about: About, upkeep: Upkeep | None, tariff: Tariff, says: Says) -> Paper:
    """A job's record in a customer's language. upkeep: when the machine is due, None where nobody can say."""
    sections = [
        _wrong(state, about, says), _done(state, about, says), _not_done(state, about, says),
        _measured(state, saved_of(state, tariff), tariff, says), _vent(state, says), _note(about, says),
        _between(state, says), _next(upkeep, says), _safety(state, says),
    ]  # fmt: skip
    return Paper(
        language=says.language,
        title=says("heading", "title"),
        workshop=about.workshop,
        day=says.day(about.day),
        lines=[
            ", ".join(part for part in about.place if part),
            says("heading", "machine", name=about.machine),
            says("heading", "by", name=about.technician),
        ],
        sections=[section for section in sections if section is not None],
        photos=says("heading", "photos"),
        signed=says("heading", "signed"),
        online=says("heading", "online"),
        foot=says("heading", "foot"),
        checksum=says("heading", "checksum", sha="{sha}", edition="{edition}", day="{day}"),
    )


def _wrong(state: JobState, about: About, says: Says) -> PaperSection:
    confirmed = state.confirmed
    complaints = [says("complaint", name) for name in state.facts.complaints if says.knows("complaint", name)]
    texts = [", ".join(complaints)] if complaints else []
    if about.said:
        texts.append(says("heading", "said", said=about.said))
    if confirmed is not None:
        known = says.knows("fault", confirmed.fault)
        strong = says("fault", confirmed.fault) if known else words_for().fault(confirmed.fault)
    else:
        strong = says("heading", "not_found") if state.wants_cause else ""
    if about.override:
        texts.append(says("heading", "override", why=about.override))
    return PaperSection("wrong", says("heading", "wrong"), strong, texts)


def _acted(act: Act, says: Says, kind: Literal["act", "undone"] = "act") -> str:
    part = says("part", act.part) if says.knows("part", act.part) else words_for().thing("part", act.part)
    return says(kind, act.act, part=part)


def _done(state: JobState, about: About, says: Says) -> PaperSection:
    done = [_acted(line.act, says) for line in state.works.lines if line.became == "done"]
    texts = [] if done else [says("heading", "no_repair")]
    if about.found:
        texts.append(says("heading", "found", found="; ".join(about.found)))
    if about.fitted:
        texts.append(says("heading", "fitted", parts="; ".join(_fitted(about.fitted, says))))
    if about.minutes:
        texts.append(says("heading", "minutes", minutes=says.number(about.minutes)))
    agreed = state.facts.agreement()
    section = PaperSection("done", says("heading", "done"), texts=texts, points=done)
    if agreed is not None:
        price = says.money(Decimal(agreed.total), agreed.currency)
        section.texts.append(f"{says('heading', 'agreed')} · {price}{f' ({agreed.name})' if agreed.name else ''}")
    return section


def _fitted(fitted: Iterable[tuple[str, str, int]], says: Says) -> list[str]:
    """(kind of part, number, count) each."""
    found = []
    for kind, number, count in fitted:
        part = " ".join(filter(None, (says("part", kind) if says.knows("part", kind) else kind, number)))
        found.append(says("heading", "of_many", count=count, part=part) if count > 1 else part)
    return found


def _not_done(state: JobState, about: About, says: Says) -> PaperSection | None:
    left = [
        _acted(line.act, says, "undone") + (f" ({line.why})" if line.why else "")
        for line in state.works.lines
        if line.became in ("declined", "not_possible", "taken") or (line.became == "open" and line.stands == "must")
    ]
    points = [*left, *about.left]
    return PaperSection("not_done", says("heading", "not_done"), points=points) if points else None


def _measured(state: JobState, saved: Saved | None, tariff: Tariff, says: Says) -> PaperSection:
    proof = state.proof
    section = PaperSection("measured", says("heading", "measured"), says("verdict", proof.code))
    rows = [row for row in proof.rows if says.knows("reading", row.kind)]
    flow = next((row for row in rows if row.kind in ("outlet_flow", "hood_flow") and row.after is not None), None)
    if flow is not None:
        section.bars = _bars(flow, says)
        most = max(flow.healthy, flow.before or 0.0, flow.after or 0.0)
        if flow.kind == "outlet_flow":
            limit = proof.acceptance.limit_m3s
            section.limit = Bar(says("heading", "limit"), says.quantity(limit, "flow"), limit / most)
        after, before, healthy = (
            "" if value is None else says.quantity(value, "flow") for value in (flow.after, flow.before, flow.healthy)
        )
        code = "flow" if flow.before is not None else "flow_only"
        section.texts.append(says("gain", code, after=after, before=before, healthy=healthy))
    if saved is not None and saved.minutes_before and saved.minutes_after and proof.code not in ("unchanged", "lower"):
        now, before = (says.number(minutes) for minutes in (saved.minutes_after, saved.minutes_before))
        if now != before:
            section.texts.append(says("gain", "minutes", now=now, before=before))
        if saved.kwh_a_year > LEAST_SAVED_KWH:
            loads = says.number(tariff.loads_per_week)
            if saved.money_a_year is not None:
                money = says.money(saved.money_a_year, tariff.currency, whole=True)
                section.texts.append(says("gain", "saved", money=money, loads=loads))
            else:
                section.texts.append(says("gain", "saved_energy", energy=says.number(saved.kwh_a_year), loads=loads))
    if rows:
        head = [says("heading", name) for name in ("reading", "before", "after", "healthy")]
        section.table = PaperTable(head, [_row(row, says) for row in rows])
    return section


def _bars(row: Comparison, says: Says) -> list[Bar]:
    named = {"before": row.before, "after": row.after, "healthy": row.healthy}
    most = max(value for value in named.values() if value is not None)
    return [
        Bar(says("heading", name), says.quantity(value, "flow"), value / most)
        for name, value in named.items()
        if value is not None
    ]


def _row(row: Comparison, says: Says) -> list[str]:
    dimension = reading_dimensions()[row.kind]
    values = (row.before, row.after, row.healthy)
    return [says("reading", row.kind), *("–" if value is None else says.quantity(value, dimension) for value in values)]


def _vent(state: JobState, says: Says) -> PaperSection | None:
    """The run as it is: the new one once it is built."""
    drawn = state.facts.run
    run = state.new_run if state.new_run is not None and state.rebuilt is not None else drawn.run if drawn else None
    if run is None:
        return None
    pieces = []
    for piece in run.pieces:
        match piece:
            case Straight(length_m=length):
                pieces.append(("straight", says("piece", "straight", length=says.along(length))))
            case Flexible(length_m=length):
                pieces.append(("flexible", says("piece", "flexible", length=says.along(length))))
            case Elbow(angle_deg=angle):
                pieces.append(("elbow", says("piece", "elbow", angle=says.number(angle))))
            case Hood():
                pieces.append(("hood", says("piece", "hood")))
    return PaperSection("vent", says("heading", "vent"), run=pieces) if pieces else None


def _note(about: About, says: Says) -> PaperSection | None:
    return PaperSection("note", says("heading", "note"), texts=about.note.splitlines()) if about.note else None


def _between(state: JobState, says: Says) -> PaperSection:
    wrong = [state.confirmed.fault] if state.confirmed else []
    codes = advice_for(state.facts.circumstances, wrong)
    return PaperSection("between", says("heading", "between"), points=[says("advice", code) for code in codes])


def _next(upkeep: Upkeep | None, says: Says) -> PaperSection:
    section = PaperSection("next", says("heading", "next"))
    if upkeep is None:
        section.texts = [says("due", "year")]
        return section
    low, middle, high = (says.day(day) for day in upkeep.due)
    section.strong = says("due", "by", day=says.day(upkeep.service_by))
    yearly = "year" in {row.code for row in upkeep.because}
    section.texts = [says("due", "year") if yearly else says("due", "expected", day=middle, low=low, high=high)]
    return section


def _safety(state: JobState, says: Says) -> PaperSection:
    points = [says("safety", "smell")]
    if state.facts.machine.heat.energy == "gas":
        points.append(says("safety", "gas"))
    left = says("safety", "left_hot") if state.proof.too_hot_to_use else ""
    return PaperSection("safety", says("heading", "safety"), strong=left, points=points)
