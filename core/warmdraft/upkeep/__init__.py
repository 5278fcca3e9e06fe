"""When a machine is due again: how fast it fills with lint, by its own flows and by those of its kind.

May import air. Imports numpy and the standard library.
"""

from warmdraft.upkeep.due import LONGEST_DAYS, Foreseen, Reason, ReasonCode, Upkeep, share_on, upkeep, upkeep_among
from warmdraft.upkeep.growth import (
    Believed,
    Growth,
    believed,
    believed_as_plain,
    believed_from_plain,
    growth_of,
)
from warmdraft.upkeep.visits import (
    CALLBACK_DAYS,
    LIMIT_SHARE,
    WEEKS_A_YEAR,
    Kept,
    Span,
    Standing,
    Visit,
    callbacks,
    in_order,
    spans_of,
    standing_of,
)

__all__ = [
    "CALLBACK_DAYS",
    "LIMIT_SHARE",
    "LONGEST_DAYS",
    "WEEKS_A_YEAR",
    "Believed",
    "Foreseen",
    "Growth",
    "Kept",
    "Reason",
    "ReasonCode",
    "Span",
    "Standing",
    "Upkeep",
    "Visit",
    "believed",
    "believed_as_plain",
    "believed_from_plain",
    "callbacks",
    "growth_of",
    "in_order",
    "share_on",
    "spans_of",
    "standing_of",
    "upkeep",
    "upkeep_among",
]
