"""A set of answers held to MODEL_VERSION: what the model says of jobs of many kinds, to four digits.

PYTHONPATH=core python tests/core/model_answers.py      writes model_answers.json anew, with today's version
"""

import json
from pathlib import Path
from typing import Any

from strategies import exact_readings
from warmdraft.airway import READING_KINDS
from warmdraft.checks import checks
from warmdraft.diagnosis import MODEL_VERSION
from warmdraft.faults import catalogue
from warmdraft.jobfile import read_job
from warmdraft.units import UNITS
from warmdraft.work import state_of

KEPT = Path(__file__).with_suffix(".json")
_TAPS = ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction", "screen_duct_suction", "wall_static_pressure")


def _job(**parts: Any) -> dict[str, Any]:
    return {"format": "warm-draft/job", "version": 1} | parts


def _read(fault: str, severity: float, kinds: tuple[str, ...], **more: Any) -> list[dict[str, Any]]:
    exact = exact_readings(((fault, severity),))
    return [
        {"kind": kind, "value": float(f"{exact[kind]:.4g}"), "unit": UNITS[READING_KINDS[kind]].canonical} | more
        for kind in kinds
    ]


def jobs() -> dict[str, dict[str, Any]]:
    """Jobs by name: each fault with its taps read, each look, meter, log, recordings, gas, hot, cold, told and odd."""
    found: dict[str, dict[str, Any]] = {"nothing": _job(), "gas": _job(machine={"energy": "gas"})}
    for name, fault in catalogue().items():
        middle = fault.middle_severity
        if middle is not None:
            found[name] = _job(readings=_read(name, middle, _TAPS))
            found[f"{name}, two readings"] = _job(readings=_read(name, middle, _TAPS[:2]), complaints=["long_drying"])
    for name, check in checks().items():
        if check.results and check.given_under is None:
            found[f"look {name}"] = _job(findings=[{"check": name, "result": check.results[-1]}])
    fuse = {"part": "thermal_fuse", "instrument": "analogue", "isolated": True, "reading": "needle_at_infinity"}
    fades = [0.07 if minute < 30 else 0.05 for minute in range(60)]
    log = {"kind": "hood_flow", "unit": "m3/s", "minutes": list(range(60)), "values": fades}
    cold = {"temperature": {"value": 2, "unit": "degC"}, "pressure": {"value": 850, "unit": "hPa"}}
    heard = {"verdict": "roller_flat", "scores": {"roller_flat": 0.97, "nothing_stands_out": 0.03}}
    torn = {"verdict": "roller_flat", "scores": {"roller_flat": 0.55, "wheel_unbalance": 0.45}}
    odd = {"kind": "hood_flow", "value": 0.12, "unit": "m3/s"}
    found |= {
        "fuse blown": _job(meter=[fuse], complaints=["no_heat"]),
        "fades": _job(logs=[log], circumstances=["slow_after_an_hour"]),
        "roller heard": _job(sounds=[heard], complaints=["rumbles"]),
        "roller or wheel heard": _job(sounds=[torn], complaints=["rumbles"]),
        "hot": _job(readings=_read("hood_blocked", 20, _TAPS, heat_on=True)),
        "cold and high": _job(readings=_read("hood_blocked", 20, _TAPS), air=cold),
        "one odd": _job(readings=[*_read("hood_blocked", 20, _TAPS), odd]),
        "proven": _job(readings=[*_read("hood_blocked", 20, _TAPS), *_read("none", 1, _TAPS[:1], phase="after")]),
    }  # fmt: skip
    return found


def _short(value: float) -> float:
    return float(f"{value:.4g}")


def answers() -> dict[str, Any]:
    """What the model says of each: faults, the next checks, the operating point, misfits, proof."""
    told = {}
    for name, document in jobs().items():
        state = state_of(read_job(document).facts)
        verdict = state.verdict
        told[name] = {
            "faults": {row.fault: _short(row.probability) for row in verdict.faults[:4]},
            "severity": [_short(value) for value in verdict.faults[0].severity or ()],
            "pair_share": _short(verdict.pair_share),
            "next": {row.check: [_short(row.bits), _short(row.minutes)] for row in verdict.next_checks[:3]},
            "flow": _short(verdict.operating_point.flow_m3s),
            "misfits": [row.reading for row in verdict.misfits],
            "proof": state.proof.code,
        }
    return told


if __name__ == "__main__":
    KEPT.write_text(json.dumps({"version": MODEL_VERSION, "answers": answers()}, indent=0) + "\n")
