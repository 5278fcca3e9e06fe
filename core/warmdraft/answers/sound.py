"""What a recording tells, as JSON and in words."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.machine import Drive
from warmdraft.sound.hear import Heard
from warmdraft.sound.verdict import SoundVerdict, judge_sound
from warmdraft.words import Words

#: The first stands alone when it is so much likelier than the second (own choice).
_TOLD_APART = 0.5
#: More samples than this at full scale are a recording that is cut off; under so many seconds slow knocks are hardly
#: heard (own assumptions).
_CLIPPED, _SHORT_S = 0.0005, 8.0
#: The part whose rate a source stands at.
_PART = {"wheel_unbalance": "wheel", "wheel_rub": "wheel", "roller_flat": "roller", "idler_worn": "idler",
         "belt_lump": "belt"}  # fmt: skip


@dataclass(slots=True)
class SourceScore:
    """How much speaks for a source; all of them sum to 1."""

    source: str
    text: str
    score: float


@dataclass(slots=True)
class SoundAnswer:
    """Which part it is. verdict: the likeliest source; text: what that means; told_apart: whether the second is far.

    measured_rates: turns a second as heard, Hz, null where a part does not stand out. by_hand: what tells the likeliest
    ones apart; notes: what is wrong with the recording.
    """

    sources: list[SourceScore]
    verdict: str
    text: str
    told_apart: bool
    margin: float
    measured_rates: dict[str, float | None]
    by_hand: list[str]
    notes: list[str]
    seconds: float


def sound_answer(heard: Heard, drive: Drive, words: Words) -> SoundAnswer:
    """The judgement on a recording of a machine with this drive."""
    found = judge_sound(heard, drive)
    book = words.texts("sound")
    (one, _), (other, _) = found.scores[:2]
    apart = found.margin >= _TOLD_APART
    said = str(book["says"][one]).format(hz=_rate(found, one))
    if not apart:
        pair = {"one": book["source"][one], "other": book["source"][other]}
        said = str(book["cannot"]["apart"]).format(**pair)
    notes = [book["note"]["clipped"]] if heard.clipped > _CLIPPED else []
    notes += [book["note"]["short"]] if heard.seconds < _SHORT_S else []
    return SoundAnswer(
        sources=[SourceScore(source, book["source"][source], score) for source, score in found.scores],
        verdict=one,
        text=said,
        told_apart=apart,
        margin=found.margin,
        measured_rates=found.rates,
        by_hand=[book["by_hand"][source] for source in ((one,) if apart else (one, other))],
        notes=notes,
        seconds=heard.seconds,
    )


def _rate(found: SoundVerdict, source: str) -> str:
    part = _PART.get(source)
    rate = found.rates.get(part) if part else None
    if part == "belt" and rate is None:
        rate = found.rates["drum"]
    return "–" if rate is None else f"{rate:.1f}"
