"""What a recording of a running machine tells: which part rumbles.

`hear` and `verdict` are imported by those who listen: the signal library they use takes a second to come in.
"""

from warmdraft.sound.rates import SLIP, SOURCES, Rates, rates_of

__all__ = ["SLIP", "SOURCES", "Rates", "rates_of"]
