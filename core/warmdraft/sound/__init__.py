"""What a recording of a running machine tells: which part rumbles.

`hear` and `verdict` are imported by those who listen: the signal library they use takes a second to come in.
"""

from warmdraft.sound.rates import SLIP, Rates, rates_of, slip_of
from warmdraft.sound.told import FARTHEST, PART_OF, PARTS, SOURCES, SoundVerdict, verdict_of, verdict_said

__all__ = [
    "FARTHEST", "PARTS", "PART_OF", "SLIP", "SOURCES", "Rates", "SoundVerdict", "rates_of", "slip_of", "verdict_of",
    "verdict_said",
]  # fmt: skip
