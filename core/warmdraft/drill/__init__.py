"""Training cases: a machine with a hidden fault that answers what is read and looked at, and what a better way was.

May import work and all below it. Imports numpy and the standard library.
"""

from warmdraft.drill.score import Advice, Drilled, Move, Unsafe, UnsafeCode, drilled
from warmdraft.drill.world import Hidden, World

__all__ = ["Advice", "Drilled", "Hidden", "Move", "Unsafe", "UnsafeCode", "World", "drilled"]
