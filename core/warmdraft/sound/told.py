"""What a recording told: which part, and how much speaks for each."""

from __future__ import annotations

import math
import statistics
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

#: What a sound may come from; the order in which they are told.
SOURCES = ("wheel_unbalance", "wheel_rub", "roller_flat", "idler_worn", "belt_lump", "nothing_stands_out")
#: Parts whose rates are looked for; and the one that a source stands at.
PARTS = ("wheel", "drum", "roller", "idler", "belt")
PART_OF = {"wheel_unbalance": "wheel", "wheel_rub": "wheel", "roller_flat": "roller", "idler_worn": "idler",
           "belt_lump": "belt"}  # fmt: skip
#: The first stands alone when it is so much likelier than the second; and that nothing stands out, when it is by so
#: much: the others do not stand out, or they would be first (own choices).
TOLD_APART, NOTHING_APART = 0.5, 0.25
#: How many nats a step beyond where a source stands out is worth, and the most steps that count. Recordings of a
#: generator of our own set them; others of it, held out, say how often they are right (tests/reference).
_WORTH, _MOST = 2.2, 5.0
#: No source stands out by more than this, nor less, steps: a recording in which a rate is not there at all.
FARTHEST = 1000.0
#: How far recordings of one kind of machine differ, steps: what stands out of a healthy one has to stand out by so much
#: more. Set by recordings of a generator of our own; others of it, held out, say how often that is right.
_DIFFER = 2.0
#: What stands out no more than there may be worn all the same, and hide in what is usual: it is not less likely than
#: this, steps (own assumption).
_USUAL = -0.5
#: How much speaks for a source that somebody wrote down without saying how sure (own assumption).
SAID = 0.8


@dataclass(frozen=True, slots=True)
class SoundVerdict:
    """scores: of each of SOURCES, sum to 1, best first. rates: as heard, Hz, of each of PARTS, None where it does not
    stand out. stands: how far each source but the last stands beyond where it stands out, in steps of its own; empty
    where only the scores are known."""

    scores: tuple[tuple[str, float], ...]
    rates: tuple[tuple[str, float | None], ...] = ()
    stands: tuple[tuple[str, float], ...] = ()

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

    def beside(self, healthy: Sequence[Mapping[str, float]]) -> SoundVerdict:
        """The same beside healthy machines of the kind: what they show too tells nothing. healthy: how far each source
        stands on each of them.

        >>> knocks = verdict_from({"roller_flat": 2.0, "idler_worn": 2.5}, {"roller": 8.1, "idler": 9.5})
        >>> knocks.source, knocks.beside([{"idler_worn": 2.4}]).source
        ('idler_worn', 'roller_flat')
        """
        if not healthy or not self.stands:
            return self
        usual = {source: statistics.median(row.get(source, -math.inf) for row in healthy) for source, _ in self.stands}
        left = {
            source: max(far - usual[source] - _DIFFER, min(far, _USUAL)) if usual[source] > 0 else far
            for source, far in self.stands
        }
        heard = {PART_OF[source] for source, far in left.items() if far > 0}
        heard |= {"drum"} if "belt" in heard else set()
        rates = tuple((part, hz if part in heard else None) for part, hz in self.rates)
        return replace(verdict_from(left, {}), rates=rates)

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


def verdict_from(stands: Mapping[str, float], rates: Mapping[str, float | None]) -> SoundVerdict:
    """A verdict from how far each source stands beyond where it stands out; against all of them, that nothing does."""
    nats = {source: _WORTH * min(far, _MOST) for source, far in stands.items()} | {"nothing_stands_out": 0.0}
    most = max(nats.values())
    told = verdict_of({source: math.exp(value - most) for source, value in nats.items()}, rates)
    within = {source: min(max(far, -FARTHEST), FARTHEST) for source, far in stands.items()}
    return replace(told, stands=tuple((source, within[source]) for source in SOURCES if source in within))


def verdict_of(scores: Mapping[str, float], rates: Mapping[str, float | None] | None = None) -> SoundVerdict:
    """A verdict from scores by source, of any size, missing ones none; ties go to the earlier of SOURCES."""
    whole = sum(scores.values())
    rows = [(source, scores.get(source, 0.0) / whole) for source in SOURCES]
    known = rates or {}
    return SoundVerdict(
        tuple(sorted(rows, key=lambda row: -row[1])), tuple((part, known.get(part)) for part in PARTS if rates)
    )
