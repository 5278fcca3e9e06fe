"""What the work is expected to give, as JSON and in words."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.teardown import LINE, step_of
from warmdraft.words import Words
from warmdraft.work import JobState
from warmdraft.work.expected import Expected, expected_of

#: A gain that nobody would see beside what a meter is off, share of a healthy flow (own choice).
_SEEN = 0.02


@dataclass(slots=True)
class LineGainAnswer:
    """What a line is expected to give; line: as steps name it."""

    line: str
    text: str
    chance: float
    flow: Quantity


@dataclass(slots=True)
class OutlookAnswer:
    """Flow now and after the work, 5, 50 and 95 %; text: what comes, in a sentence; opening: whether opening is worth
    it, in a sentence, empty where nothing is opened; kept: whether what was promised came, empty while nobody read."""

    now: list[Quantity]
    after: list[Quantity]
    minutes_now: float | None
    minutes_after: float | None
    text: str
    opening: str
    kept: str
    gains: list[LineGainAnswer]


def expected_answer(state: JobState, words: Words) -> OutlookAnswer:
    """What this job's work is expected to give."""
    found = expected_of(state, conditions_of(state.before))
    healthy = state.verdict.healthy_readings["outlet_flow"]
    return OutlookAnswer(
        now=[quantity(flow, "m3/s") for flow in found.now_m3s],
        after=[quantity(flow, "m3/s") for flow in found.after_m3s],
        minutes_now=found.minutes_now, minutes_after=found.minutes_after,
        text=_text(found, words), opening=_opening(found, words), kept=_kept(found, words),
        gains=[
            LineGainAnswer(
                step_of(LINE, row.act.name),
                words.word("expected", "line").format(
                    gain=words.quantity(row.flow_m3s, "flow"), chance=_percent(row.chance)),
                row.chance, quantity(row.flow_m3s, "m3/s"),
            )
            for row in found.gains if row.flow_m3s * row.chance > _SEEN * healthy
        ],
    )  # fmt: skip


def _percent(share: float) -> str:
    return f"{round(100 * share)} %"


def _text(found: Expected, words: Words) -> str:
    low, median, high = found.after_m3s
    said = words.word("expected", "after" if found.minutes_after is not None else "after_wet").format(
        flow=words.quantity(median, "flow"), either_way=words.quantity((high - low) / 2, "flow"),
        minutes=f"{found.minutes_after or 0:.0f}",
    )  # fmt: skip
    if found.minutes_now is not None:
        said += " " + words.word("expected", "now").format(
            flow=words.quantity(found.now_m3s[1], "flow"), minutes=f"{found.minutes_now:.0f}"
        )
    return said


def _kept(found: Expected, words: Words) -> str:
    if found.kept is None or found.since_m3s is None:
        return ""
    low, median, high = found.since_m3s
    return words.word("expected", found.kept).format(
        promised=words.quantity(found.after_m3s[1], "flow"), read=words.quantity(median, "flow"),
        either_way=words.quantity((high - low) / 2, "flow"),
        apart=words.quantity(abs(median - found.after_m3s[1]), "flow"),
    )  # fmt: skip


def _opening(found: Expected, words: Words) -> str:
    row = found.opening
    if row is None:
        return ""
    return words.word("expected", "opening").format(
        minutes=f"{row.minutes:.0f}", inside=_percent(row.inside), gain=words.quantity(row.flow_m3s, "flow"),
        in_vain=_percent(row.in_vain),
    )  # fmt: skip
