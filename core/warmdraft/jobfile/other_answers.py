"""Answers of the verbs that read no job: `vent` and `meter`."""

from __future__ import annotations

from typing import Any

from warmdraft.air import ROOM_TEMPERATURE_C
from warmdraft.errors import DocumentError, VentError
from warmdraft.jobfile.answers import Json, quantity
from warmdraft.jobfile.meter_schema import MeterDocument
from warmdraft.jobfile.read import read_as
from warmdraft.jobfile.runs import code_profile_of, run_of
from warmdraft.jobfile.vent_schema import VentDocument, VentPart
from warmdraft.meter import MeterVerdict, judge, parts
from warmdraft.vent import RunVerdict, judge_run
from warmdraft.words import English


def run_verdict(part: VentPart, flow_m3s: float) -> RunVerdict:
    """A run of a document, judged at a flow. Raises DocumentError."""
    temperature = part.air_temperature.si("temperature") if part.air_temperature else ROOM_TEMPERATURE_C
    try:
        return judge_run(run_of(part), flow_m3s, code_profile_of(part), temperature)
    except VentError as error:
        raise DocumentError("$", str(error)) from None


def run_answer(part: VentPart, found: RunVerdict, english: English) -> Json:
    """A judged run as the document both the command line and the web give."""
    profile = code_profile_of(part)
    return {
        "length": quantity(found.allowance.length_m, "m"),
        "fittings_allowance": quantity(found.allowance.fittings_m, "m"),
        "allowed_length": quantity(found.allowance.allowed_m, "m"),
        "within_allowance": found.allowance.within,
        "air_speed": quantity(found.air_speed_m_s, "m/s"),
        "pressure_drop": quantity(found.pressure_drop_pa, "Pa"),
        "pieces": [
            {"piece": piece.piece, "pressure_drop": quantity(drop, "Pa")}
            for piece, drop in zip(part.pieces, found.drops_pa, strict=True)
        ],
        "warnings": [
            {"code": w.code, "topic": w.topic, "text": english.run_warning(w.code, w.value, w.limit)}
            for w in found.warnings
        ],
        "code_profile": {"name": profile.name, "title": profile.title, "source": profile.source},
        "check": english.word("vent", "check_the_code"),
    }


def vent_answer(value: Any) -> Json:
    """A vent run: length against its allowance, drops, air speed, what it breaks."""
    document = read_as(VentDocument, value, "a vent run")
    return run_answer(document, run_verdict(document, document.flow.si("flow")), English())


def meter_verdict_answer(found: MeterVerdict, english: English) -> Json:
    """One verdict as the document both the command line and the web give."""
    unit = "V" if parts()[found.part].kind == "supply" else "ohm"
    return {
        "part": found.part,
        "verdict": found.verdict,
        "means": {"code": found.means, "text": english.meter_means(found.means)},
        "then": {"code": found.then, "text": english.meter_then(found.then, found.part)},
        "expected": None if found.expected is None else quantity(found.expected, unit),
    }


def meter_answer(value: Any) -> Json:
    """Verdicts on meter tests, in their order."""
    document = read_as(MeterDocument, value, "a set of meter tests")
    english = English()
    return {"verdicts": [meter_verdict_answer(judge(test.test(), document.supply), english) for test in document.tests]}
