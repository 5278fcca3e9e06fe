"""A workshop's day: which van goes where and when, what a change of it costs, how likely it is to be late.

May import nothing of ours but errors. Imports numpy and the standard library; the solver where it is wanted.
"""

from warmdraft.day.moves import Moved, moved, moves_of
from warmdraft.day.plan import plan_day
from warmdraft.day.run import LATE_FROM, Call, Missed, Run, Tour, Why, run_day
from warmdraft.day.stops import PROMISED_MINUTES, Day, Stop, Van, Window, promised
from warmdraft.day.travel import DETOUR, PARKING_MINUTES, SPEED_KMH, kilometres, travel_minutes

__all__ = [
    "DETOUR", "LATE_FROM", "PARKING_MINUTES", "PROMISED_MINUTES", "SPEED_KMH", "Call", "Day", "Missed", "Moved", "Run",
    "Stop", "Tour", "Van", "Why", "Window", "kilometres", "moved", "moves_of", "plan_day", "promised", "run_day",
    "travel_minutes",
]  # fmt: skip
