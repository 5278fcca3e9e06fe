"""Jobs with looks and with two faults at once: the generator's own tables and weights, and Bayes in them.

The tables (look_tables.json) are those of the trade's looks moved at random, each entry by up to half a log-odd, with
a fixed seed: what a look says in truth differs from what our catalogue says of it.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from itertools import combinations
from pathlib import Path

import numpy as np

from generator import (
    FAULTS,
    HEALTHY,
    KINDS,
    NAMES,
    PRIOR,
    SCATTER,
    VENT_OFF,
    Airway,
    _severities,
    airway,
    flows,
    readings_of,
)

TABLES = json.loads((Path(__file__).parent / "look_tables.json").read_text())
AIR = {"lint_screen_blinded", "lint_duct_packed", "blower_wheel_fouled", "blower_wheel_slipping",
       "exhaust_pipe_blocked", "transition_crushed", "vent_run_packed", "hood_blocked"}  # fmt: skip
GROUPS = {"VENT": {"transition_crushed", "vent_run_packed", "hood_blocked"},
          "WHEEL": {"blower_wheel_fouled", "blower_wheel_slipping"}, "AIR": AIR}  # fmt: skip
#: Two faults at once: so many jobs in a hundred, as assumed; severe enough each to be felt.
PAIR_SHARE = 0.08
PAIRS = [pair for pair in combinations(NAMES[:-1], 2) if {*pair} != {"lint_duct_packed", "lint_duct_seal_leaking"}
         and {*pair} != {"transition_crushed", "transition_detached"}
         and {*pair} != {"blower_wheel_fouled", "blower_wheel_slipping"}]  # fmt: skip
CLASSES: list[tuple[str, ...]] = [(name,) for name in NAMES] + PAIRS
_pair_prior = np.array([PRIOR[NAMES.index(a)] * PRIOR[NAMES.index(b)] for a, b in PAIRS])
CLASS_PRIOR = np.concatenate([PRIOR * (1 - PAIR_SHARE), PAIR_SHARE * _pair_prior / _pair_prior.sum()])


def _row(table: dict, fault: str) -> np.ndarray | None:
    rows = table["rows"]
    if fault in rows:
        return np.array(rows[fault])
    for group in ("VENT", "WHEEL", "AIR"):
        if group in rows and fault in GROUPS[group]:
            return np.array(rows[group])
    return None


def _healthy_flows(**changed: float) -> dict[str, np.ndarray]:
    return flows(airway([("none", np.ones(1))], np.zeros((1, 8))), **changed)


def _swapped(a: Airway, swap: str) -> np.ndarray:
    """Flow with something taken out of the way over the flow before."""
    changed = {"flap_held": {"hood": HEALTHY["hood"]}, "screen_out": {"screen": 0.0}, "vent_off": VENT_OFF,
               "transition_eased": {"transition": HEALTHY["transition"]},
               "parted_at_wall": {"run": 0.0, "hood": 0.0}, "room_open": {}}[swap]  # fmt: skip
    felt = "wheel" if swap in ("vent_off", "parted_at_wall") else "vent"
    return flows(a, **changed)[felt] / flows(a)[felt]


def _severity_weight(fault: str, severity: np.ndarray) -> np.ndarray:
    _, low, high, target = FAULTS[fault]
    middle = np.sqrt(low * high)
    if fault == "none":
        return np.ones_like(severity)
    if target in ("speed", "power"):
        return np.clip((1 - severity) / (1 - middle), 0, 1)
    if target in ("head", "detached"):
        return np.clip(severity / middle, 0, 1)
    return np.clip(np.log(severity) / np.log(middle), 0, 1)


def look_probabilities(faults: list[tuple[str, np.ndarray]], a: Airway, tables: dict = TABLES) -> dict[str, np.ndarray]:
    """P(result) of every look by the tables, (n, results) each."""
    now, healthy = flows(a), _healthy_flows()
    flow = {ours: np.clip((1 - now[here] / healthy[here]) / 0.33, 0, 1)
            for ours, here in (("hood_flow", "vent"), ("screen_flow", "lane"), ("heater_flow", "heater"))}  # fmt: skip
    nobody = airway([("none", np.ones(1))], np.zeros((1, 8)))
    out = {}
    for name, table in tables.items():
        rest = np.array(table["rows"]["rest"])
        sides = []
        for fault, severity in faults:
            row = _row(table, fault)
            if row is None:
                continue
            if table["swap"]:
                w = np.clip((_swapped(a, table["swap"]) - _swapped(nobody, table["swap"])) / 0.4, 0, 1)
            elif table["felt"] and (fault in AIR or fault == "transition_detached"):
                w = flow[table["felt"]]
            else:
                w = _severity_weight(fault, severity)
            sides.append((1 - w)[:, None] * rest + w[:, None] * row)
        out[name] = np.mean(sides, axis=0) if sides else np.tile(rest, (len(a.head), 1))
    return out


@dataclass
class LookDraws:
    """truth (n,): class; read (n, kinds); seen: result drawn of each look, (n,) by name; order of the hand's looks."""

    truth: np.ndarray
    read: np.ndarray
    seen: dict[str, np.ndarray]


def _samples(members: tuple[str, ...], n: int, rng) -> tuple[list[tuple[str, np.ndarray]], Airway]:
    faults = [(name, _severities(name, n, rng)) for name in members]
    return faults, airway(faults, SCATTER * rng.standard_normal((n, 8)))


def draw_with_looks(n: int, rng) -> LookDraws:
    """n jobs of one fault or two, each read with noise and looked at."""
    return drawn(rng.choice(len(CLASSES), size=n, p=CLASS_PRIOR), rng)


def drawn(truth: np.ndarray, rng, tables: dict = TABLES) -> LookDraws:
    """Jobs of these classes, each read with noise and looked at, where looks give what the tables say."""
    n = len(truth)
    exact = np.empty((n, len(KINDS)))
    seen = {name: np.empty(n, dtype=int) for name in TABLES}
    for c, members in enumerate(CLASSES):
        here = np.flatnonzero(truth == c)
        if len(here) == 0:
            continue
        faults, a = _samples(members, len(here), rng)
        exact[here] = readings_of(a)
        for name, p in look_probabilities(faults, a, tables).items():
            seen[name][here] = (rng.random((len(here), 1)) > np.cumsum(p, axis=1)[:, :-1]).sum(axis=1)
    share, absolute = np.array(list(KINDS.values())).T
    return LookDraws(truth, exact + (share * exact + absolute) * rng.standard_normal(exact.shape), seen)


class SampledClasses:
    """Bayes in this generator over all classes: severity and scatter integrated by sampling."""

    def __init__(self, samples: int, rng) -> None:
        self.exact, self.looks = [], []
        for members in CLASSES:
            faults, a = _samples(members, samples, rng)
            self.exact.append(readings_of(a))
            self.looks.append({name: np.log(p) for name, p in look_probabilities(faults, a).items()})

    def best(self, jobs: LookDraws, kinds: tuple[str, ...], looks: tuple[str, ...]) -> np.ndarray:
        """The likeliest class of each job, (n,)."""
        columns = [list(KINDS).index(k) for k in kinds]
        share, absolute = np.array([KINDS[k] for k in kinds]).reshape(-1, 2).T
        out = np.empty((len(jobs.truth), len(CLASSES)))
        for c in range(len(CLASSES)):
            mean = self.exact[c][:, columns]
            sd = share * mean + absolute
            for i in range(len(jobs.truth)):
                log = (-0.5 * ((jobs.read[i, columns] - mean) / sd) ** 2 - np.log(sd)).sum(axis=1)
                for name in looks:
                    log = log + self.looks[c][name][:, jobs.seen[name][i]]
                top = log.max()
                out[i, c] = np.log(CLASS_PRIOR[c]) + top + np.log(np.exp(log - top).mean())
        return out.argmax(axis=1)
