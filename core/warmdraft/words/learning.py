"""What a workshop's own jobs taught, in words."""

from __future__ import annotations

from warmdraft.faults import ANY_MACHINE, CauseMove, circumstance_names, complaint_names
from warmdraft.learning import LookMove
from warmdraft.words.codes import Codes
from warmdraft.words.numbers import decimals


class LearningWords(Codes):
    """What moved, and by how many jobs."""

    def holds(self, name: str) -> str:
        """What holds of a machine that makes causes likelier."""
        if name == ANY_MACHINE:
            return str(self.texts("learning")["any_machine"])
        if name in circumstance_names():
            return self.circumstance(name)
        return self.complaint(name) if name in complaint_names() else self.profile(name)

    def cause_move(self, move: CauseMove) -> str:
        """Where something holds, a cause is so many times likelier."""
        holds = self.holds(move.holds)
        return str(self.texts("learning")["cause"]).format(
            holds=holds[:1].upper() + holds[1:], fault=self.fault_within(move.fault), times=decimals(move.times, 1),
            counted=decimals(move.counted, 0), jobs=decimals(move.jobs, 0), expected=decimals(move.expected, 0),
        )  # fmt: skip

    def look_move(self, move: LookMove) -> str:
        """A check gives a result more or less often than our tables say."""
        return str(self.texts("learning")["look"]).format(
            check=self.check(move.check), result=self.result(move.check, move.result), row=self.look_row(move.row),
            ours=decimals(100 * move.ours, 0), taught=decimals(100 * move.taught, 0),
            counted=decimals(move.counted, 0), of=decimals(move.of, 0),
        )  # fmt: skip

    def look_row(self, row: str) -> str:
        """What a row of a look's table is about: a fault, a group of faults, or all that it does not name."""
        return str(self.texts("learning")["row"].get(row) or self.fault_within(row))
