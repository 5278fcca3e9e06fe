"""A run on a machine: its drops at rated flow in the place of the profile's."""

from __future__ import annotations

from dataclasses import replace

from warmdraft.machine import ELEMENTS, Machine
from warmdraft.vent.allowance import CodeProfile, allowance_of
from warmdraft.vent.losses import VentRun, run_and_hood_drop_pa


def with_run(machine: Machine, run: VentRun, profile: CodeProfile) -> Machine:
    """The machine with this run: the run's drop, and the hood's where it has one. Raises VentError.

    >>> from warmdraft.machine import profile
    >>> from warmdraft.vent import Hood, Straight, code_profiles
    >>> run = VentRun(0.1016, (Straight(2.0, "galvanised"), Hood("flap")))
    >>> drawn = with_run(profile("full-size-electric"), run, code_profiles()["residential-model"])
    >>> drawn.airway.drop_pa("run") < profile("full-size-electric").airway.drop_pa("run")
    True
    """
    within = allowance_of(run, profile).within
    run_drop, hood_drop = run_and_hood_drop_pa(run, machine.airway.rated_flow_m3s)
    drops = dict(zip(ELEMENTS, machine.airway.drops_pa, strict=True))
    if run_drop > 0:
        drops["run"] = run_drop
    if hood_drop:
        drops["hood"] = hood_drop
    airway = replace(
        machine.airway, drops_pa=tuple(drops[element] for element in ELEMENTS), run_within_allowance=within,
        unknown=tuple(element for element in machine.airway.unknown if element != "run" or run_drop <= 0),
    )  # fmt: skip
    return replace(machine, airway=airway)
