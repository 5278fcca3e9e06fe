"""What a recording tells, as JSON and in words."""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import TYPE_CHECKING

from warmdraft.machine import Drive
from warmdraft.sound import PARTS, rates_of, slip_of
from warmdraft.words import Words
from warmdraft.work import JobFacts, Sounded

if TYPE_CHECKING:  # it brings the signal library along
    from warmdraft.sound.curves import Curves

#: More samples than this at full scale are a recording that is cut off; under so many seconds slow knocks are hardly
#: heard (own assumptions).
_CLIPPED, _SHORT_S = 0.0005, 8.0


@dataclass(slots=True)
class SourceScore:
    """How much speaks for a source; all of them sum to 1."""

    source: str
    text: str
    score: float


@dataclass(slots=True)
class SoundAnswer:
    """Which part it is. verdict: the likeliest source; text: what that means; told_apart: whether the second is far.

    measured_rates: turns a second as heard, Hz, null where a part does not stand out. stands: how far each source
    stands out by itself, steps; beside: how many healthy machines of the kind it was held beside. by_hand: what tells
    the likeliest ones apart; notes: what is wrong with the recording. motor_off, belt_off: how far motor and belt are
    off their plate, shares, as heard.
    """

    sources: list[SourceScore]
    verdict: str
    text: str
    told_apart: bool
    margin: float
    measured_rates: dict[str, float | None]
    stands: dict[str, float]
    beside: int
    by_hand: list[str]
    notes: list[str]
    seconds: float | None
    clipped: float | None
    motor_off: float | None
    belt_off: float | None


@dataclass(slots=True)
class Band:
    """From here to there, Hz."""

    low: float
    high: float


@dataclass(slots=True)
class CurvesAnswer:
    """What is drawn of a recording; see sound.curves.Curves. Levels in dB, a tenth fine."""

    spectrum_step_hz: float
    spectrum_db: list[float]
    band: Band
    trace_step_s: float
    trace_db: list[float]
    knocks_step_hz: float
    knocks_db: list[float]
    bands: dict[str, Band | None]


@dataclass(slots=True)
class DrawnSoundAnswer(SoundAnswer):
    """The same with its curves."""

    curves: CurvesAnswer


@dataclass(slots=True)
class PartRate:
    """How fast a part turns, Hz."""

    part: str
    text: str
    hz: float


def sound_answer(fact: Sounded, facts: JobFacts, words: Words) -> SoundAnswer:
    """The judgement on a recording for this job in words."""
    book = words.texts("sound")
    found, seconds, clipped = facts.told_by(fact), fact.seconds, fact.clipped
    (one, _), (other, _) = found.scores[:2]
    apart = found.clear
    rate = found.rate_of(one)
    at = "" if rate is None else str(book["rate"]).format(hz=f"{rate:.1f}")
    said = str(book["says"][one]).format(rate=at)
    if fact.healthy:
        said = str(book["healthy"][one] if one == "nothing_stands_out" else book["healthy"]["else"]).format(
            source=book["source"][one]
        )
    elif not apart:
        pair = {"one": book["source"][one], "other": book["source"][other]}
        said = str(book["cannot"]["apart"]).format(**pair)
    elif one == "nothing_stands_out" and fact.phase == "before":
        said = f"{said} {book['again']['before']}"
    notes = [book["note"]["clipped"]] if clipped is not None and clipped > _CLIPPED else []
    notes += [book["note"]["short"]] if seconds is not None and seconds < _SHORT_S else []
    notes += [] if facts.wheel_known else [book["note"]["by_ear"]]
    usual = fact.heard.source
    if usual not in (one, "nothing_stands_out"):
        notes.append(str(book["note"]["usual"]).format(source=book["source"][usual]))
    heard = dict(found.rates) if facts.wheel_known else dict(found.rates) | {"wheel": None}
    motor_off, belt_off = slip_of(heard, facts.machine.drive)
    return SoundAnswer(
        sources=[SourceScore(source, book["source"][source], score) for source, score in found.scores],
        verdict=one,
        text=said,
        told_apart=apart,
        margin=found.margin,
        measured_rates=dict.fromkeys(PARTS) | dict(found.rates),
        stands=dict(fact.heard.stands),
        beside=0 if fact.healthy or not fact.heard.stands else len(facts.healthy),
        by_hand=[] if fact.healthy else [book["by_hand"][source] for source in ((one,) if apart else (one, other))],
        notes=notes,
        seconds=seconds,
        clipped=clipped,
        motor_off=motor_off,
        belt_off=belt_off,
    )


def drawn_sound_answer(found: SoundAnswer, curves: Curves) -> DrawnSoundAnswer:
    """A judgement with the curves it was made from."""
    told = {row.name: getattr(curves, row.name) for row in fields(CurvesAnswer)}
    levels = {name: [round(db, 1) for db in value.tolist()] for name, value in told.items() if name.endswith("_db")}
    rest = {row.name: getattr(found, row.name) for row in fields(SoundAnswer)}
    bands = {part: None if band is None else Band(*band) for part, band in curves.bands.items()}
    return DrawnSoundAnswer(**rest, curves=CurvesAnswer(**told | levels | {"band": Band(*curves.band), "bands": bands}))


def rates_answer(drive: Drive, motor_off: float, belt_off: float, words: Words) -> list[PartRate]:
    """Rates of a drive's parts, the slowest first; see rates_of."""
    found, book = rates_of(drive, motor_off, belt_off), words.texts("sound")
    return sorted(
        (PartRate(part, book["part"][part], getattr(found, part)) for part in (*PARTS, "motor", "blade_pass")),
        key=lambda row: row.hz,
    )
