"""The vent outside the machine: what a run and its hood lose at a given flow.

May import machine, air, units, errors.
"""

from warmdraft.vent.allowance import (
    DEFAULT_CODE_PROFILE,
    Allowance,
    CodeProfile,
    FittingAllowance,
    allowance_of,
    code_profiles,
)
from warmdraft.vent.build import Build, Found, best_way, losses_pa, pieces_along
from warmdraft.vent.design import DesignWarning, RunVerdict, judge_run, run_air_density
from warmdraft.vent.friction import ROUGHNESS_M
from warmdraft.vent.losses import (
    Elbow,
    Flexible,
    Hood,
    Piece,
    Pinch,
    Straight,
    VentRun,
    piece_drops_pa,
    pinch_coefficient,
    run_and_hood_drop_pa,
    step_drop_pa,
)
from warmdraft.vent.route import HEADINGS, Heading, Opening, Way, Ways, ahead, least_in_the_way

__all__ = [
    "DEFAULT_CODE_PROFILE",
    "HEADINGS",
    "ROUGHNESS_M",
    "Allowance",
    "Build",
    "CodeProfile",
    "DesignWarning",
    "Elbow",
    "FittingAllowance",
    "Flexible",
    "Found",
    "Heading",
    "Hood",
    "Opening",
    "Piece",
    "Pinch",
    "RunVerdict",
    "Straight",
    "VentRun",
    "Way",
    "Ways",
    "ahead",
    "allowance_of",
    "best_way",
    "code_profiles",
    "judge_run",
    "least_in_the_way",
    "losses_pa",
    "piece_drops_pa",
    "pieces_along",
    "pinch_coefficient",
    "run_air_density",
    "run_and_hood_drop_pa",
    "step_drop_pa",
]
