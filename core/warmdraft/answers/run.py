"""A vent run, judged."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.vent import RunVerdict
from warmdraft.words import Words
from warmdraft.work import DrawnRun


@dataclass(slots=True)
class RunPieceAnswer:
    """A piece of the run and what it loses."""

    piece: str
    pressure_drop: Quantity


@dataclass(slots=True)
class RunWarningAnswer:
    """What a run breaks: a sentence with its clause's topic."""

    code: str
    topic: str
    text: str


@dataclass(slots=True)
class CodeProfileAnswer:
    """The code profile a run was held against."""

    name: str
    title: str
    source: str


@dataclass(slots=True)
class RunAnswer:
    """A vent run as drawn, judged at a flow."""

    length: Quantity
    fittings_allowance: Quantity
    allowed_length: Quantity
    within_allowance: bool
    air_speed: Quantity
    pressure_drop: Quantity
    pieces: list[RunPieceAnswer]
    warnings: list[RunWarningAnswer]
    code_profile: CodeProfileAnswer
    check: str


def run_answer(drawn: DrawnRun, found: RunVerdict, words: Words) -> RunAnswer:
    """A judged run with its words."""
    profile = drawn.code_profile
    title = words.code_profile(profile)
    return RunAnswer(
        length=quantity(found.allowance.length_m, "m"),
        fittings_allowance=quantity(found.allowance.fittings_m, "m"),
        allowed_length=quantity(found.allowance.allowed_m, "m"),
        within_allowance=found.allowance.within,
        air_speed=quantity(found.air_speed_m_s, "m/s"),
        pressure_drop=quantity(found.pressure_drop_pa, "Pa"),
        pieces=[
            RunPieceAnswer(piece, quantity(drop, "Pa")) for piece, drop in zip(drawn.names, found.drops_pa, strict=True)
        ],
        warnings=[
            RunWarningAnswer(w.code, words.run_topic(w.code), words.run_warning(w.code, w.value, w.limit))
            for w in found.warnings
        ],
        code_profile=CodeProfileAnswer(profile.name, title.text, title.why),
        check=words.word("vent", "check_the_code"),
    )
