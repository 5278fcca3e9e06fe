"""Ids as texts that anybody may send."""

from uuid import UUID


def id_in(text: str | None) -> UUID | None:
    """The id that a text is; None where it is none."""
    try:
        return UUID(text or "")
    except ValueError:
        return None
