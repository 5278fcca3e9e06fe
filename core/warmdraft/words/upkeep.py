"""What a machine asks for between visits, in words."""

from __future__ import annotations

from warmdraft.upkeep import Reason
from warmdraft.words.codes import Codes
from warmdraft.words.numbers import decimals


class UpkeepWords(Codes):
    """When a machine is due, and why."""

    def why_due(self, reason: Reason) -> str:
        """Why a date is what it is."""
        count = reason.count or 0
        return str(self.texts("upkeep")["because"][reason.code]).format(
            times=decimals(reason.times or 0, 1), count=decimals(count, 0 if count == int(count) else 1)
        )
