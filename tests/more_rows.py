"""The core with one more row of each catalogue: what a row is worth is seen in core, server and screen."""

import shutil
from pathlib import Path

import warmdraft

CORE = Path(warmdraft.__file__).parent

#: One more row of each catalogue: the file, and what is added to it.
ROWS = {
    "fault": ("faults", """
[drum_baffle_loose]
words = "Drum baffle loose"
acts = ["belt.look"]
zone = "upstream"
element = "drum"
effect = "resistance_times"
target = "drum"
prior = 0.02
range = [2, 20]
group = ["AIR"]
consequences = ["high_limit_cycling"]
"""),
    "check": ("checks/running", """
[drum_light]
do = "Shine a lamp through the drum's holes"
how = "Drum empty, lamp behind it: how many holes show light?"
node = "drum"
access = "outside"
minutes = 1.0
with = "eye_lamp"
hazard = "none"
results = { open = "all of them", clogged = "few of them" }
[drum_light.p]
AIR = [0.4, 0.6]
rest = [0.9, 0.1]
"""),
    "reading": ("readings", """
[drum_suction]
words = "suction behind the drum"
dimension = "pressure"
given = "tap"
tap = "drum"
suction = true
sd = [0.06, 3.0]
logged = true
[drum_suction.check]
do = "Measure the suction behind the drum"
how = "Tap in the bulkhead, drum empty, no heat."
node = "drum"
access = "top_off"
minutes = 6.0
with = "manometer"
hazard = "edges"
"""),
    "act": ("acts", """
["drum_seal.clean"]
words = "Wash the felt"
steps = [{ id = "wash_seal", does = "Wash the felt with a damp cloth", minutes = 3 }]
"""),
    "instrument": ("instruments", """
[hot_wire]
words = "hot wire"
reads = "flow"
sd = [0.04, 0.001]
"""),
    "code profile": ("code_profiles", """
[lake-town]
title = "Lake town, rigid 4 in"
source = "invented"
max_length = [30, 0]
hood_from_openings = [3, 0]
hood_above_ground = [1, 0]
supports = [12, 0]
bore_in = 4.0
fittings = [
  { style = "mitred", radius_in = 0, angle = 45, takes = [2, 6] },
  { style = "mitred", radius_in = 0, angle = 90, takes = [5, 0] },
]
"""),
    "complaint": ("complaints", '[whistles]\nwords = "whistles"\n'),
    "circumstance": ("circumstances", '[by_the_sea]\nwords = "by the sea"\ntimes = { hood_blocked = 1.5 }\n'),
}  # fmt: skip


def copied(folder: Path) -> Path:
    """The core in a folder of its own."""
    shutil.copytree(CORE, folder / "warmdraft", ignore=shutil.ignore_patterns("__pycache__"))
    return folder / "warmdraft" / "data"


def with_more_rows(folder: Path) -> Path:
    """A copy of the core with them, a layout too; the folder to import it from."""
    data = copied(folder)
    for file, row in ROWS.values():
        path = data / f"{file}.toml"
        path.write_text(f"{path.read_text()}\n{row}")
    layout = (data / "layouts" / "two_motors.toml").read_text()
    layout = layout.replace('name = "two_motors"', 'name = "lake_town"').replace('title = "', 'title = "Lake town: ')
    (data / "layouts" / "lake_town.toml").write_text(layout)
    faults = data / "faults.toml"
    faults.write_text(
        faults.read_text().replace('acts = ["drum_seal.replace"]', 'acts = ["drum_seal.replace", "drum_seal.clean"]')
    )
    return folder
