"""Heater, thermostats and the drying of a load.

May import airway, machine, air, units, errors. Imports numpy and the standard library.
"""

from warmdraft.heat.case import drying_case
from warmdraft.heat.drying import DryingCase, DryingRun, Load, Moment, Trip, dry
from warmdraft.heat.pair import drying_pair

__all__ = ["DryingCase", "DryingRun", "Load", "Moment", "Trip", "dry", "drying_case", "drying_pair"]
