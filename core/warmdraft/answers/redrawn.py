"""The vent drawn anew, as JSON and in words: ways side by side, why others are none, what each takes and costs."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.answers.shopping import Asked, RunParts, Shop
from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.heat import Load
from warmdraft.jobfile.runs import piece_document
from warmdraft.repair import acts
from warmdraft.vent import (
    MOVED,
    SIDE_ROOM_M,
    Build,
    Elbow,
    Flexible,
    Heading,
    Outlet,
    Plan,
    Straight,
    VentRun,
    piece_drops_pa,
)
from warmdraft.vent.design import OUTLET_LIMIT_PA
from warmdraft.words import Words
from warmdraft.work import JobState, building
from warmdraft.work.expected import minutes_at
from warmdraft.work.redrawn import MOST_WAYS, Closed, WayOut, ways_out

#: How far rods reach, m, and round how many bends (own assumptions): beyond it a run wants an opening.
RODS_REACH_M, RODS_BEND = 7.0, 2
#: A usual transition, m, and how much shorter than stretched one hangs that is laid without care (own assumptions).
_TRANSITION_M, _SLACK = 0.9, 0.15
#: What a booster gives beyond what is missing, as a share (own assumption).
_TO_SPARE = 1.25


@dataclass(slots=True)
class CountedPart:
    """A part and how many of it; cost: of all of them, null where none has a price."""

    part: str
    text: str
    count: int
    cost: str | None


@dataclass(slots=True)
class CutBar:
    """A standard length and what is cut from it, as text; left: what is left of it."""

    stock: str
    pieces: list[str]
    left: str


@dataclass(slots=True)
class WayOutAnswer:
    """One way of a new run.

    path: its cells from the machine on; vent: as `warm-draft/vent`; flow: 5, 50 and 95 %; left: of the length allowed,
    negative where it is too long; cost: parts and work before tax, null where something has no price; build: in order.
    """

    key: str
    outlet: Outlet
    face: Heading
    title: str
    fits: bool
    text: str
    promise: str
    path: list[list[int]]
    vent: dict[str, Any]
    length: Quantity
    elbows: int
    pressure_drop: Quantity
    left: Quantity
    air_speed: Quantity
    flow: list[Quantity]
    minutes: float | None
    warnings: list[str]
    cleaning: list[str]
    notes: list[str]
    parts: list[CountedPart]
    bars: list[CutBar]
    cuts_proven: bool
    work_minutes: float
    cost: str | None
    currency: str
    unpriced: list[str]
    build: list[str]


@dataclass(slots=True)
class ClosedAnswer:
    """Where no way leads, and why."""

    outlet: Outlet
    face: Heading | None
    text: str


@dataclass(slots=True)
class BoxAnswer:
    """Something on the plan in whole cells, both corners in it; kind: of the things on a plan, or the machine."""

    kind: str
    low: list[int]
    high: list[int]


@dataclass(slots=True)
class RedrawnAnswer:
    """A plan's ways.

    boxes: what stands on it; side: what stands side by side, each through another face where there are so many; more:
    the rest; none: why nothing fits, empty where something does; never: what must not be done.
    """

    boxes: list[BoxAnswer]
    side: list[WayOutAnswer]
    more: list[WayOutAnswer]
    closed: list[ClosedAnswer]
    today: str
    transition: str
    none: str
    never: list[str]
    check: str


def redrawn_answer(state: JobState, build: Build, shop: Shop, words: Words) -> RedrawnAnswer | None:
    """The ways of a job's plan, built so; None where there is no plan. Raises VentError."""
    new = state.facts.new_run
    if new is None:
        return None
    asked, book = Asked(state, shop, words), words.texts("vent")
    parts = state.facts.layout.parts if state.facts.layout else ()
    found = ways_out(new.plan, build, state.before, state.cause, parts)
    first = _side_by_side(found.ways)
    told = {id(way): _way(way, new.plan, asked) for way in found.ways}
    return RedrawnAnswer(
        boxes=[BoxAnswer(row.kind, list(row.low), list(row.high)) for row in (new.plan.stands, *new.plan.things)],
        side=[told[id(way)] for way in first], more=[told[id(way)] for way in found.ways if way not in first],
        closed=[ClosedAnswer(row.outlet, row.face, _why_not(row, state, words)) for row in found.closed],
        today=_today(state, words), transition=_transition(build, state, words), none=_none(found.ways, state, words),
        never=list(book["never"].values()),
        check=words.word("vent", "check_the_code"),
    )  # fmt: skip


def _side_by_side(ways: Sequence[WayOut]) -> list[WayOut]:
    """The best through each face, then the best of the rest."""
    faces: dict[str, WayOut] = {}
    for way in ways:
        faces.setdefault(way.face, way)
    chosen = [*faces.values(), *(way for way in ways if faces[way.face] is not way)][:MOST_WAYS]
    return [way for way in ways if way in chosen]


def _cap(text: str) -> str:
    return text[:1].upper() + text[1:]


def _title(outlet: Outlet, face: Heading, words: Words) -> str:
    book = words.texts("vent")
    return _cap(str(book["plan"]["title"]).format(outlet=book["outlet"][outlet], face=book["face"][face]))


def _way(way: WayOut, plan: Plan, asked: Asked) -> WayOutAnswer:
    words, state = asked.words, asked.state
    run, verdict = way.found.run, way.verdict
    takes = asked.of_run(run)
    counted = [_counted(part, count, asked) for part, count in takes.parts.items()]
    unpriced = [row.text for row in counted if row.cost is None]
    minutes = sum(acts()[name].minutes for name in building(way.outlet))
    left = verdict.allowance.allowed_m - verdict.allowance.length_m
    return WayOutAnswer(
        key=f"{way.outlet} {way.face}", outlet=way.outlet, face=way.face, title=_title(way.outlet, way.face, words),
        fits=way.fits, text=_text(way, words), promise=_promise(way, words),
        path=[list(cell) for cell in way.found.way.cells],
        vent={
            "diameter": {"value": run.bore_m, "unit": "m"}, "pieces": [piece_document(piece) for piece in run.pieces],
        },
        length=quantity(way.found.length_m, "m"), elbows=way.found.way.elbows,
        pressure_drop=quantity(verdict.pressure_drop_pa, "Pa"), left=quantity(left, "m"),
        air_speed=quantity(verdict.air_speed_m_s, "m/s"), flow=[quantity(flow, "m3/s") for flow in way.flow_m3s],
        minutes=way.minutes,
        warnings=[words.run_warning(row.code, row.value, row.limit) for row in verdict.warnings],
        cleaning=_cleaning(way, words), notes=_notes(way, takes, state, words), parts=counted,
        bars=_bars(takes, words), cuts_proven=takes.cuts.optimal, work_minutes=minutes,
        cost=_cost(counted, minutes, asked), currency=asked.figures.currency, unpriced=unpriced,
        build=_build(way, takes, words, plan.code_profile.supports_m),
    )  # fmt: skip


def _counted(part: str, count: int, asked: Asked) -> CountedPart:
    price = asked.price(part)
    return CountedPart(
        part, asked.words.thing("part", part), count, None if price is None else asked.sum(price * count)
    )


def _cost(parts: Sequence[CountedPart], minutes: float, asked: Asked) -> str | None:
    hour = asked.figures.hour
    if hour is None or any(row.cost is None for row in parts):
        return None
    return asked.sum(sum((Decimal(row.cost or 0) for row in parts), hour * Decimal(str(minutes)) / 60))


def _text(way: WayOut, words: Words) -> str:
    book = words.texts("vent")["plan"]
    allowance, drop = way.verdict.allowance, way.verdict.pressure_drop_pa
    left = allowance.allowed_m - allowance.length_m
    key = "fits_not" if left < -1e-9 else "over_pressure" if drop > OUTLET_LIMIT_PA else "fits"
    return str(book[key]).format(
        drop=words.quantity(drop, "pressure"), left=words.along(left), over=words.along(-left),
        limit=words.quantity(OUTLET_LIMIT_PA, "pressure"),
    )  # fmt: skip


def _promise(way: WayOut, words: Words) -> str:
    low, median, high = way.flow_m3s
    key = "promise" if way.minutes is not None else "promise_wet"
    return str(words.texts("vent")["plan"][key]).format(
        flow=words.quantity(median, "flow"), either_way=words.quantity((high - low) / 2, "flow"),
        minutes=f"{way.minutes or 0:.0f}",
    )  # fmt: skip


def _today(state: JobState, words: Words) -> str:
    flow = state.verdict.flow.median
    minutes = minutes_at(state.facts.machine, flow, conditions_of(state.before), Load())
    return str(words.texts("vent")["plan"]["today" if minutes is not None else "today_wet"]).format(
        flow=words.quantity(flow, "flow"), minutes=f"{minutes or 0:.0f}"
    )


def _transition(build: Build, state: JobState, words: Words) -> str:
    """What the piece between collar and wall loses, rigid and semi-rigid, at this machine's rated flow."""
    bend = Elbow(90.0, "smooth", build.bore_m)
    semi_rigid = (Flexible(_TRANSITION_M, 0.0), Flexible(_TRANSITION_M, _SLACK))
    pieces = (Straight(_TRANSITION_M, build.material), bend, bend, *semi_rigid)
    flow = state.facts.machine.airway.rated_flow_m3s
    straight, first, second, stretched, loose = piece_drops_pa(VentRun(build.bore_m, pieces), flow)
    return str(words.texts("vent")["plan"]["transition"]).format(
        length=words.along(_TRANSITION_M), rigid=words.quantity(straight + first + second, "pressure"),
        stretched=words.quantity(stretched, "pressure"), slack=f"{_SLACK:.0%}".replace("%", " %"),
        loose=words.quantity(loose, "pressure"),
    )  # fmt: skip


def _cleaning(way: WayOut, words: Words) -> list[str]:
    book, bends, length = words.texts("vent")["clean"], way.found.way.elbows, way.found.length_m
    said = [str(book["from_both"]).format(bends=bends, length=words.along(length))]
    if way.face == "+z":
        said.append(str(book["roof"]))
    if length > 2 * RODS_REACH_M or bends > 2 * RODS_BEND:
        said.append(str(book["opening"]).format(reach=words.along(2 * RODS_REACH_M), bends=2 * RODS_BEND))
    return said


def _notes(way: WayOut, takes: RunParts, state: JobState, words: Words) -> list[str]:
    book = words.texts("vent")["plan"]
    said = []
    if way.outlet in MOVED:
        kit = [words.thing("part", part) for part in acts()[f"{MOVED[way.outlet]}.fit"].uses_up]
        said.append(str(book["moved"]).format(parts=", ".join(kit)))
        if state.facts.machine.heat.energy == "gas":
            said.append(str(book["moved_gas"]))
    if takes.materials.tight:
        said.append(str(book["tight"]).format(count=len(takes.materials.tight)))
    return said


def _bars(takes: RunParts, words: Words) -> list[CutBar]:
    return [
        CutBar(
            words.thing("part", takes.stock[bar.stock]), [words.sawn(piece) for piece in bar.pieces_m],
            words.sawn(bar.left_m),
        )
        for bar in takes.cuts.bars
    ]  # fmt: skip


def _build(way: WayOut, takes: RunParts, words: Words, every_m: float) -> list[str]:
    """What is put together, in order: straights by the pieces they are cut in, bends by where they turn to."""
    book = words.texts("vent")
    said, straight, bends = [str(book["build"]["begin"])], 0, iter(way.found.way.turns)
    for piece in way.found.run.pieces:
        match piece:
            case Straight():
                cut = [words.sawn(row.length_m) for row in takes.materials.cuts if row.straight == straight]
                straight += 1
                if cut:
                    said.append(str(book["build"]["cut"]).format(number=straight, pieces=" + ".join(cut)))
            case Elbow():
                said.append(str(book["build"]["bend"]).format(heading=book["heading"][next(bends)[1]]))
            case _:
                said.append(str(book["build"]["hood"]))
    said.append(str(book["build"]["tape"]).format(length=words.along(takes.materials.tape_m)))
    if held := takes.materials.parts.get("duct_support"):
        said.append(str(book["build"]["support"]).format(count=held, every=words.along(every_m)))
    return said


def _why_not(row: Closed, state: JobState, words: Words) -> str:
    book, new = words.texts("vent"), state.facts.new_run
    kinds = words.texts("plan_things")

    def thing(kind: str) -> str:
        return str(book["plan"]["machine"] if kind == "machine" else kinds[kind]["words"])

    things = [str(book["why_not"]["count"]).format(count=count, thing=thing(kind)) for kind, count in row.between]
    return str(book["why_not"][row.why]).format(
        outlet=_cap(str(book["outlet"][row.outlet])), face=book["face"][row.face] if row.face else "",
        thing=thing(row.between[0][0]) if row.between else "", things=", ".join(things),
        room=words.quantity(row.room_m, "length"), wants=words.quantity(SIDE_ROOM_M, "length"),
        apart=words.along(new.plan.code_profile.hood_from_openings_m) if new else "",
    )  # fmt: skip


def _none(ways: Sequence[WayOut], state: JobState, words: Words) -> str:
    """Why nothing fits, with what would; empty where something does."""
    book, new = words.texts("vent")["plan"], state.facts.new_run
    if any(way.fits for way in ways):
        return ""
    if new is not None and not new.plan.faces:
        return str(book["nothing"])
    if not ways:
        return str(book["none_leads"])
    best = ways[0]
    drop, over = best.verdict.pressure_drop_pa, best.verdict.allowance
    missing = max(drop - OUTLET_LIMIT_PA, drop * (1 - over.allowed_m / over.length_m) if over.length_m else 0.0, 0.0)
    return str(book["none_fits" if not over.within else "none_fits_pressure"]).format(
        over=words.along(over.length_m - over.allowed_m), drop=words.quantity(drop, "pressure"),
        limit=words.quantity(OUTLET_LIMIT_PA, "pressure"),
        booster=words.quantity(math.ceil(missing * _TO_SPARE / 10) * 10, "pressure"),
        flow=words.quantity(best.flow_m3s[1], "flow"),
    )  # fmt: skip
