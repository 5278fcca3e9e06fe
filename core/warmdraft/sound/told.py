"""What a recording told: which part, and how much speaks for each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

#: What a sound may come from; the order in which they are told.
SOURCES = ("wheel_unbalance", "wheel_rub", "roller_flat", "idler_worn", "belt_lump", "nothing_stands_out")
#: Parts whose rates are looked for; and the one that a source stands at.
PARTS = ("wheel", "drum", "roller", "idler", "belt")
PART_OF = {"wheel_unbalance": "wheel", "wheel_rub": "wheel", "roller_flat": "roller", "idler_worn": "idler",
           "belt_lump": "belt"}  # fmt: skip
#: The first stands alone when it is so much likelier than the second; and that nothing stands out, when it is by so
#: much: the others do not stand out, or they would be first (own choices).
TOLD_APART, NOTHING_APART = 0.5, 0.25
#: How much speaks for a source that somebody wrote down without saying how sure (own assumption).
SAID = 0.8


@dataclass(frozen=True, slots=True)
class SoundVerdict:
    """scores: of each of SOURCES, sum to 1, best first. rates: as heard, Hz, of each of PARTS, None where it does not
    stand out."""

    scores: tuple[tuple[str, float], ...]
    rates: tuple[tuple[str, float | None], ...] = ()

    @property
    def source(self) -> str:
        """The likeliest."""
        return self.scores[0][0]

    @property
    def margin(self) -> float:
        """How much the first is before the second."""
        return self.scores[0][1] - self.scores[1][1]

    @property
    def clear(self) -> bool:
        """Whether the first can be told from the second."""
        return self.margin >= (NOTHING_APART if self.source == "nothing_stands_out" else TOLD_APART)

    def rate_of(self, source: str) -> float | None:
        """Rate that a source stands at, Hz; a lump in the belt may be heard once a turn of the drum."""
        rates = dict(self.rates)
        rate = rates.get(PART_OF.get(source, ""))
        return rates.get("drum") if rate is None and source == "belt_lump" else rate

    def shares_of(self, sources: Sequence[str]) -> tuple[float, ...]:
        """Scores in this order."""
        scores = dict(self.scores)
        return tuple(scores[source] for source in sources)


def verdict_said(source: str) -> SoundVerdict:
    """A verdict of which only the source is known.

    >>> verdict_said("roller_flat").scores[0]
    ('roller_flat', 0.8)
    """
    rest = (1 - SAID) / (len(SOURCES) - 1)
    return SoundVerdict(((source, SAID), *((other, rest) for other in SOURCES if other != source)))


def verdict_of(scores: dict[str, float], rates: dict[str, float | None] | None = None) -> SoundVerdict:
    """A verdict from scores by source, of any size, missing ones none; ties go to the earlier of SOURCES."""
    whole = sum(scores.values())
    rows = [(source, scores.get(source, 0.0) / whole) for source in SOURCES]
    known = rates or {}
    return SoundVerdict(
        tuple(sorted(rows, key=lambda row: -row[1])), tuple((part, known.get(part)) for part in PARTS if rates)
    )
