"""How a drill went, in words."""

from __future__ import annotations

from warmdraft.drill import Advice, Move, Unsafe
from warmdraft.words.codes import Codes
from warmdraft.words.numbers import decimals


class DrillWords(Codes):
    """What was done, what would have been better, what was not safe."""

    def rung(self, name: str) -> str:
        """A case of the ladder, as it is offered: nothing of what is hidden."""
        return str(self.texts("drill")["case"][name])

    def lies(self, kind: str, factor: float) -> str:
        """A reading that lied, and how."""
        return str(self.texts("drill")["lies"]).format(reading=self.reading(kind), factor=decimals(factor, 1))

    def level(self, level: int) -> str:
        """How hard the cases of a level are."""
        return str(self.texts("drill")["level"][str(level)])

    def act_of(self, do: str, subject: str) -> str:
        """An act: a check as it stands on its button, or mending a cause."""
        if do == "check":
            return self.check(subject)
        return str(self.texts("drill")["mend"]).format(fault=self.fault_within(subject))

    def advice(self, advice: Advice, own: Move) -> str:
        """What would have been better in the place of an act."""
        return str(self.texts("drill")["advice"]).format(
            better=self.act_of(advice.do, advice.subject), own=self.act_of(own.do, own.subject),
            minutes=decimals(advice.saved, 0),
        )  # fmt: skip

    def unsafe(self, act: Unsafe) -> str:
        """An act that was not safe."""
        text = str(self.texts("drill")["unsafe"][act.code])
        check = self.check(act.subject) if act.code == "not_qualified" else ""
        complaint = self.complaint(act.subject) if act.code == "stop_ignored" else ""
        return text.format(check=check, complaint=complaint)
