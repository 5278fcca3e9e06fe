"""What a customer is told to do between visits: chosen by what was wrong and what is known of the machine's use."""

from __future__ import annotations

from collections.abc import Iterable

from warmdraft.tables import table


def advice_for(circumstances: Iterable[str], faults: Iterable[str]) -> tuple[str, ...]:
    """Codes of what is said, in the order of the table.

    >>> advice_for(["pets"], ["transition_crushed"])
    ('screen', 'pets', 'mark', 'flap', 'opened', 'longer')
    """
    said, wrong = set(circumstances), set(faults)
    return tuple(
        name
        for name, row in table("advice").items()
        if row.get("always") or said & set(row.get("circumstances", ())) or wrong & set(row.get("faults", ()))
    )
