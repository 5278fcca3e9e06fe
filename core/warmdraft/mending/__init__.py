"""What is decided with the part in the hand: which way it turns, whether the new one is the old one's like.

May import air, units, tables, errors. Imports the standard library.
"""

from warmdraft.mending.match import (
    PROPERTIES,
    REASONS,
    Difference,
    Part,
    Reason,
    Resets,
    Suits,
    Verdict,
    asked_of,
    matched,
)
from warmdraft.mending.seal import Cut, Edge, cut_length, glue_has_to_stand
from warmdraft.mending.thread import (
    ATTACHMENTS,
    ENDS,
    FREEING,
    MARKS,
    ROLES,
    Attachment,
    End,
    Hand,
    Mark,
    Role,
    Seat,
    Turn,
    Turns,
    turns_of,
)

__all__ = [
    "ATTACHMENTS", "ENDS", "FREEING", "MARKS", "PROPERTIES", "REASONS", "ROLES", "Attachment", "Cut", "Difference",
    "Edge", "End", "Hand", "Mark", "Part", "Reason", "Resets", "Role", "Seat", "Suits", "Turn", "Turns", "Verdict",
    "asked_of", "cut_length", "glue_has_to_stand", "matched", "turns_of",
]  # fmt: skip
