"""Training cases: a machine with a hidden fault that answers what is read and looked at, and what a better way was.

May import work and all below it. Imports numpy and the standard library.
"""

from warmdraft.drill.ladder import LEVELS, Rung, ladder
from warmdraft.drill.score import Advice, Drilled, Move, Unsafe, UnsafeCode, after, drilled
from warmdraft.drill.world import MOST_WRONG, Hidden, World

__all__ = [
    "LEVELS", "MOST_WRONG", "Advice", "Drilled", "Hidden", "Move", "Rung", "Unsafe", "UnsafeCode", "World", "after",
    "drilled", "ladder",
]  # fmt: skip
