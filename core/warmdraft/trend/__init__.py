"""What a reading does over a run: does it stay, fade, sink slowly, or switch on and off?

May import units, errors. Imports numpy and the standard library.
"""

from warmdraft.trend.fit import SHAPES, Trend, trend_of
from warmdraft.trend.series import LOG_KINDS, Series, read_csv

__all__ = ["LOG_KINDS", "SHAPES", "Series", "Trend", "read_csv", "trend_of"]
