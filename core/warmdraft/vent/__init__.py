"""The vent outside the machine: what a run and its hood lose, how long it may be, and a new one: where it goes (route,
plan), what it is built of (build, bill).

May import machine, airway, air, units, tables, errors.
"""

from warmdraft.vent.allowance import (
    DEFAULT_CODE_PROFILE,
    Allowance,
    CodeProfile,
    FittingAllowance,
    allowance_of,
    code_profiles,
)
from warmdraft.vent.bill import RUN_PARTS, Bill, Cut, bill_of, duct_stock
from warmdraft.vent.build import Build, Found, best_way, built_of, losses_pa, pieces_along
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
from warmdraft.vent.on_machine import with_run
from warmdraft.vent.plan import (
    FACES,
    GROUND_BELOW_M,
    MOVED,
    OUTLETS,
    SIDE_ROOM_M,
    Outlet,
    Plan,
    Thing,
    levels_of,
    thing_kinds,
)
from warmdraft.vent.route import HEADINGS, Cell, Heading, Opening, Way, Ways, ahead, least_in_the_way

__all__ = [
    "DEFAULT_CODE_PROFILE",
    "FACES",
    "GROUND_BELOW_M",
    "HEADINGS",
    "MOVED",
    "OUTLETS",
    "ROUGHNESS_M",
    "RUN_PARTS",
    "SIDE_ROOM_M",
    "Allowance",
    "Bill",
    "Build",
    "Cell",
    "CodeProfile",
    "Cut",
    "DesignWarning",
    "Elbow",
    "FittingAllowance",
    "Flexible",
    "Found",
    "Heading",
    "Hood",
    "Opening",
    "Outlet",
    "Piece",
    "Pinch",
    "Plan",
    "RunVerdict",
    "Straight",
    "Thing",
    "VentRun",
    "Way",
    "Ways",
    "ahead",
    "allowance_of",
    "best_way",
    "bill_of",
    "built_of",
    "code_profiles",
    "duct_stock",
    "judge_run",
    "least_in_the_way",
    "levels_of",
    "losses_pa",
    "piece_drops_pa",
    "pieces_along",
    "pinch_coefficient",
    "run_air_density",
    "run_and_hood_drop_pa",
    "step_drop_pa",
    "thing_kinds",
    "with_run",
]
