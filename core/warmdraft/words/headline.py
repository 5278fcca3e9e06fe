"""The plain sentence that stands first: where the air is held up, as code and as words."""

from __future__ import annotations

from typing import Any

from warmdraft.diagnosis import Case, Verdict
from warmdraft.units import Dimension
from warmdraft.words.english import English, one_of

#: The places named first hold this much of the probability together; more than so many is "not clear yet".
NAMED_SHARE = 0.8
MOST_PLACES = 3
AFTER_THE_MACHINE = {"transition", "run", "hood", "room"}
BEFORE_THE_WHEEL = {"upstream"}


def _places(verdict: Verdict) -> list[tuple[str, float]]:
    named, total = [], 0.0
    for zone, probability in verdict.zones:
        if total >= NAMED_SHARE:
            break
        named.append((zone, probability))
        total += probability
    return named


def _short_of(verdict: Verdict, english: English) -> str:
    now, healthy = verdict.implied_readings["outlet_flow"], verdict.healthy_readings["outlet_flow"]
    flow: Dimension = "flow"
    return f"{english.quantity(now, flow)} of {english.number(healthy, flow)} through the outlet."


def headline(case: Case, verdict: Verdict, english: English) -> dict[str, Any]:
    """{"code", "zones", "probability", "text", "why"}; `why` is the second sentence."""
    places = _places(verdict)
    zones = [zone for zone, _ in places]
    total = sum(probability for _, probability in places)
    words = [str(english.word("zone", zone)) for zone in zones]
    leading = verdict.faults[0]
    code, why = "held_up", _short_of(verdict, english)
    if not (case.readings or case.findings):
        code, text = "nothing_measured", "Nothing measured yet."
        why = "A reading or a look turns guesses into a place."
    elif verdict.misfits:
        misfit = verdict.misfits[0]
        reading = str(english.word("reading", misfit.reading))
        code, text = "misfit", f"One reading does not fit the others: {reading}."
        why = "Take it again before believing anything below."
    elif len(places) > MOST_PLACES:
        code, text = "not_clear", "Not clear yet where the air is held up."
    elif zones[0] == "none":
        code, text = "nothing_wrong", "The air moves as it should."
        why = f"{_short_of(verdict, english)} Look at the load, the setting and the drive."
    elif zones == ["heat"]:
        code, text = "heat", f"The air moves as it should; {english.fault(leading.fault).lower()}."
    elif zones[0] in ("electrical", "drive", "use"):
        code, text = "not_of_the_air", f"Not the air: {english.fault(leading.fault).lower()}."
    elif len(zones) == 1 and leading.probability >= NAMED_SHARE:
        code, text = "fault", f"{english.fault(leading.fault)}: {english.sure(leading.probability)}."
    elif len(zones) > 1 and set(zones) <= AFTER_THE_MACHINE:
        code, text = "held_up_after", f"The air is held up after the machine: {one_of(words)}."
        why += " These cannot be told apart from here: look, or tap between them."
    elif set(zones) == BEFORE_THE_WHEEL:
        code, text = "held_up_before", "The air is held up inside, before the wheel."
    else:
        text = f"The trouble is at {one_of(words)}."
    return {"code": code, "zones": zones, "probability": total, "text": text, "why": why}
