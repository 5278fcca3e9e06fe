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
from warmdraft.vent.design import DesignWarning, RunVerdict, judge_run
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

__all__ = [
    "DEFAULT_CODE_PROFILE",
    "Allowance",
    "CodeProfile",
    "DesignWarning",
    "Elbow",
    "FittingAllowance",
    "Flexible",
    "Hood",
    "Piece",
    "Pinch",
    "RunVerdict",
    "Straight",
    "VentRun",
    "allowance_of",
    "code_profiles",
    "judge_run",
    "piece_drops_pa",
    "pinch_coefficient",
    "run_and_hood_drop_pa",
    "step_drop_pa",
]
