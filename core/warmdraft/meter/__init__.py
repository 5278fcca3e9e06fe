"""What an electrical reading means.

May import tables, units, errors. Imports the standard library.
"""

from warmdraft.meter.circuit import suspect_circuit
from warmdraft.meter.parts import ElectricalPart, Supply, parts, supplies, supply_of
from warmdraft.meter.verdict import MeterTest, MeterVerdict, judge, thermistor_ohm

__all__ = [
    "ElectricalPart", "MeterTest", "MeterVerdict", "Supply", "judge", "parts", "supplies", "supply_of",
    "suspect_circuit", "thermistor_ohm",
]  # fmt: skip
