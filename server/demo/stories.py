"""The jobs of the demo world: a small upland lake town, invented. Each has a cause of its own."""

from dataclasses import dataclass, field
from typing import Any, Literal


@dataclass(frozen=True)
class Story:
    """One job of the demo: what is true (suppose), what was read, seen and done."""

    key: str
    place: tuple[str, str, str]
    machine: str
    title: str
    complaints: list[str]
    said: str
    hours: float
    suppose: list[dict[str, Any]]
    profile: str = "full-size-electric"
    energy: str = "electric"
    supply: str = "plug"
    layout: str = ""
    age: float = 6
    circumstances: list[str] = field(default_factory=list)
    read: tuple[str, ...] = ()
    wrong: dict[str, float] = field(default_factory=dict)
    found: dict[str, str] = field(default_factory=dict)
    told: dict[str, dict[str, str]] = field(default_factory=dict)
    #: (part, kind of meter, as typed)
    metered: tuple[tuple[str, str, str], ...] = ()
    #: Of a log: how much of the flow is lost, from which minute on.
    fades: tuple[float, float] | None = None
    #: Recordings: (phase, where it was held, what it sounds like).
    sounds: tuple[tuple[Literal["before", "after"], str, str], ...] = ()
    #: One of its kind stands beside it, runs well and was recorded too, held there.
    healthy_beside: str = ""
    vent: dict[str, Any] | None = None
    plan: dict[str, Any] | None = None
    safe: bool = False
    working: str | None = None
    #: Of the way in: operations to keep out, and to go through.
    avoid: tuple[str, ...] = ()
    through: tuple[str, ...] = ()
    steps: int = 0
    #: Plain orders: (part, act). What was said of lines of works: (act's name, state, why).
    works: tuple[tuple[str, str], ...] = ()
    lines: tuple[tuple[str, str, str], ...] = ()
    #: At the bench: (operation, what, key, state, count, note).
    counts: tuple[tuple[str, str, str, str, int, str], ...] = ()
    #: Parts on their way: (part, number).
    ordered: tuple[tuple[str, str], ...] = ()
    confirmed: str | None = None
    after: tuple[str, ...] = ()
    seen_after: dict[str, str] = field(default_factory=dict)
    handed_over: bool = False
    note: str = ""
    seed: int = 1


COLLAR = ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction")
STORIES = (
    Story(
        "kennels", ("Otter Ness kennels", "2 Ness Lane", "Maro Tindle"), "left machine", "Towels take all afternoon",
        ["long_drying", "overheats"], "Since the new porch was built. Two cycles for a load of dog towels.", 1.0,
        [{"fault": "hood_blocked", "severity": 20}], layout="top_screen_rear_duct", age=7,
        circumstances=["pets"], read=COLLAR, safe=True, seed=3,
    ),
    Story(
        "rowing", ("Rowing clubhouse", "The Slip", "Petra Vane"), "changing room", "Rumbles and runs hot",
        ["rumbles", "overheats"], "Rumbling for a year, worse since autumn.", 2.5,
        [{"fault": "blower_wheel_fouled", "severity": 0.5}], layout="top_screen_rear_duct", age=9,
        circumstances=["pets", "not_cleaned_for_years"], read=(*COLLAR, "vent_off_flow", "screen_duct_suction"),
        found={"hood_air": "weak", "drum_spin": "even_drag", "screen_light": "clean"}, safe=True,
        working="blower_wheel_fouled", steps=4, seed=11, sounds=(("before", "front, low", "wheel_unbalance"),),
    ),
    Story(
        "hostel", ("Hikers' hostel", "Upper Fell Road", "Ansel Brook"), "boot room", "Never gets socks dry",
        ["long_drying"], "Guests leave it running all night.", 4.0,
        [{"fault": "lint_screen_blinded", "severity": 9}], layout="door_screen_bulkhead", age=4,
        circumstances=["fabric_softener_sheets"], read=("outlet_flow",), safe=True, seed=5,
    ),
    Story(
        "theatre", ("Theatre wardrobe", "Old Playhouse Yard", "Lio Farran"), "under the stage", "Stops and starts",
        ["stops_and_starts", "long_drying"], "Stops for a quarter of an hour, then goes on.", 5.5,
        [{"fault": "vent_run_packed", "severity": 6}], age=12, circumstances=["long_run"],
        read=(*COLLAR, "wall_static_pressure"), wrong={"blower_inlet_suction": 420.0}, safe=True, seed=8,
    ),
    Story(
        "moorings", ("Narrowboat moorings", "Wash house, Lock 3", "Hedda Quill"), "wash house",
        "Came back from the paint job, now too hot", ["overheats", "short_cycles"],
        "The wall was painted; the machine was pulled out and pushed back.", -26.0,
        [{"fault": "transition_crushed", "severity": 60}], layout="top_screen_rear_duct", age=3,
        circumstances=["soft_foil_transition", "moved_lately"], read=COLLAR, found={"behind_look": "flat"}, safe=True,
        working="transition_crushed", steps=99, confirmed="transition_crushed",
        after=(*COLLAR, "heater_rise"), seen_after={"hood_flap_opens": "full", "power_watch": "steady"},
        handed_over=True, seed=21,
        note="Keep a hand's breadth behind the machine: the mark is on the floor. Screen before every load.",
    ),
    Story(
        "moorings_back", ("Narrowboat moorings", "Wash house, Lock 3", "Hedda Quill"), "wash house",
        "Back again: damp room", ["damp_or_linty_room", "long_drying"],
        "Fine for two weeks. Now the room is wet and there is fluff on the sill.", 7.0,
        [{"fault": "transition_detached", "severity": 2}], layout="top_screen_rear_duct", age=3,
        circumstances=["moved_lately", "serviced_lately"],
        read=("outlet_flow", "outlet_static_pressure", "hood_flow"), found={"hood_air": "none"}, safe=True, seed=31,
    ),
    Story(
        "bakery", ("Lakeside tea room", "Quay Steps", "Orrin Sedge"), "back kitchen", "Gas machine, room gets stuffy",
        ["long_drying"], "Slow only when the extractor hood is on.", 8.5,
        [{"fault": "room_starved", "severity": 70}], profile="full-size-gas", energy="gas", supply="hard_wired", age=5,
        circumstances=["other_fans_in_room"], seed=2,
    ),
    Story(
        "ferry", ("Ferry office", "The Long Pier", "Sunniva Pell"), "crew room", "Does not start any more",
        ["no_start", "overheats"], "Got hotter for weeks, then stopped in the middle of a load.", 9.5,
        [{"fault": "lint_duct_packed", "severity": 25}], layout="rear_shaft_clamp", age=8,
        circumstances=["fibre_that_sheds"], safe=True, found={"what_runs": "dead", "screen_slot_lamp": "packed"},
        works=(("thermal_fuse", "meter"),), working="lint_duct_packed", steps=9,
        lines=(("drum_seal.replace", "declined", "the office says: next year"),
               ("front_seal.replace", "taken", "")),
        told={"no_start": {"since": "yesterday", "how_often": "always", "what": "nothing moves, the timer ticks"}},
        metered=(("thermal_fuse", "analogue", "needle_at_infinity"),), ordered=(("thermal_fuse", "OR-19"),), seed=17,
    ),
    Story(
        "library", ("Lakeside library", "Reading Row", "Ysolde Marr"), "staff room", "Yearly cleaning",
        ["service_due"], "Nothing is wrong; it is a year since the last time.", 10.0, [],
        layout="lower_panel_keyholes", age=4, read=("outlet_flow",), safe=True,
        works=(("hood", "clear"),), lines=(("run.clean", "declined", "swept in spring by the house"),), seed=19,
    ),
    Story(
        "bathhouse", ("Sauna raft", "Reed Bay", "Imre Dallow"), "towel room", "Fine at first, slow after an hour",
        ["long_drying"], "The first load is dry in half an hour, the third never.", 10.5,
        [], layout="top_screen_rear_duct", age=11, circumstances=["slow_after_an_hour"], safe=True,
        read=("outlet_flow", "outlet_static_pressure"), fades=(0.3, 38.0), seed=23,
    ),
    Story(
        "laundry", ("Fell race office", "Bridge House", "Nessa Corrie"), "kit room", "Slips under load",
        ["long_drying", "rumbles"], "A whirr that comes and goes, and then no air.", -2.0,
        [{"fault": "blower_wheel_slipping", "severity": 0.6}], layout="lower_panel_keyholes", age=6,
        read=(*COLLAR, "screen_duct_suction"), found={"screen_light": "clean"}, safe=True,
        working="blower_wheel_slipping", avoid=("wheel_from_below",), through=("bulkhead", "drum"), steps=99,
        counts=(
            ("blower_cover", "fastener", "hex_head 18 mm", "out", 6, ""),
            ("blower_cover", "fastener", "hex_head 18 mm", "back", 5, ""),
            ("control_frame", "fastener", "hex_head 13 mm", "missing", 1, "stripped; a new one is on the van"),
            ("control_frame", "fastener", "hex_head 13 mm", "back", 3, ""),
            ("console", "wire", "control_board · harness_plug", "on", 1, ""),
            ("front", "wire", "door_switch · plug", "noted", 1, "grey"),
            ("front", "wire", "door_switch · plug", "noted", 1, "white"),
            ("front", "wire", "door_switch · plug", "on", 1, ""),
        ), seed=37,
    ),
    Story(
        "lanterns", ("Lantern workshop", "Quay Steps 3", "Edda Finlow"), "drying room", "Knocks, louder when full",
        ["rumbles", "knocks"], "It knocks with the drum, and dries as it always did.", -1.0, [],
        layout="top_screen_rear_duct", age=10, read=COLLAR, found={"drum_spin": "grinds", "screen_light": "clean"},
        safe=True, working="roller_worn", steps=99, confirmed="roller_worn", after=COLLAR, seed=43,
        sounds=(("before", "front, low", "roller_flat"), ("after", "front, low", "nothing_stands_out")),
        healthy_beside="front, low",
    ),
    Story(
        "mill", ("Watermill guest house", "Weir Lane 9", "Bettine Grove"), "linen store", "Slow since it was put in",
        ["long_drying"], "It was never quick; the pipe goes through the whole house.", 11.5, [], age=2,
        circumstances=["long_run"], safe=True, seed=29,
        vent={
            "diameter": {"value": 4, "unit": "in"},
            "pieces": [
                {"piece": "straight", "length": {"value": 22, "unit": "ft"}, "material": "galvanised"},
                {"piece": "elbow", "angle": 90, "style": "mitred"},
                {"piece": "straight", "length": {"value": 12, "unit": "ft"}, "material": "galvanised"},
                {"piece": "elbow", "angle": 90, "style": "mitred"},
                {"piece": "flexible", "length": {"value": 5, "unit": "ft"}, "compression": 0.1},
                {"piece": "hood", "style": "flap"},
            ],
        },
        plan={
            "cells": [18, 12, 8], "cell": {"value": 1, "unit": "ft"}, "machine": [7, 8, 0], "outdoors": ["-x", "+y"],
            "things": [
                {"kind": "window", "corner": [6, 11], "opposite": [9, 11]},
                {"kind": "joist", "corner": [0, 6], "opposite": [17, 6]},
                {"kind": "pipe", "corner": [5, 11], "opposite": [5, 11]},
                {"kind": "cupboard", "corner": [10, 9], "opposite": [13, 11]},
                {"kind": "door", "corner": [0, 2], "opposite": [0, 4]},
            ],
        },
    ),
)  # fmt: skip


#: A laundry whose machines are looked after on a round: machine, (days ago, what it was, how bad), the oldest first.
_ROUND: tuple[tuple[str, tuple[tuple[int, str, float], ...]], ...] = (
    ("no. 1", ((720, "lint_duct_packed", 4.0), (400, "lint_duct_packed", 7.0), (150, "lint_duct_packed", 5.0))),
    ("no. 2", ((700, "lint_screen_blinded", 4.0), (380, "lint_duct_packed", 4.0))),
    ("no. 3", ((130, "hood_blocked", 14.0), (70, "hood_blocked", 11.0))),
    ("no. 4", ((30, "vent_run_packed", 5.0),)),
)
_HOURS_A_DAY = 24
ROUND = tuple(
    Story(
        f"laundry-{name}-{days}", ("Millrace laundry", "Millrace Yard 6", "Odile Carrow"), name, "On the round",
        ["long_drying"], "", -_HOURS_A_DAY * days, [{"fault": fault, "severity": bad}], age=9,
        circumstances=["many_loads", "fibre_that_sheds"], read=COLLAR, working=fault, confirmed=fault, after=COLLAR,
        safe=True, steps=99, seen_after={"hood_flap_opens": "full"}, handed_over=True, seed=days,
    )
    for name, visits in _ROUND
    for days, fault, bad in visits
)  # fmt: skip
