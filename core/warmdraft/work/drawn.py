"""Which parts a shape of the cut-away stands for, on one machine."""

from __future__ import annotations

from warmdraft.checks import checks
from warmdraft.repair import NEEDS_NO_OPENING, acts
from warmdraft.tables import table
from warmdraft.teardown import Layout


def parts_drawn(layout: Layout, energy: str) -> dict[str, tuple[str, ...]]:
    """Parts by shape, outermost first: those that something can be done to on this machine; shapes without any are out.

    energy: what heats it.

    >>> from warmdraft.teardown import layout
    >>> parts_drawn(layout('top_screen_rear_duct'), 'electric')['felt']
    ('drum_seal', 'front_seal')
    """
    reached = {*layout.parts, *NEEDS_NO_OPENING}
    others = {check.meters for check in checks().values() if check.meters and check.energy not in (energy, None)}
    can = {act.part for act in acts().values() if set(act.reach) <= reached} - others
    shapes = (layout.drawing or {}).get("shapes", {})
    found = {name: _meant(layout, name, shape["kind"]) for name, shape in shapes.items()}
    return {name: here for name, parts in found.items() if (here := tuple(part for part in parts if part in can))}


def _meant(layout: Layout, shape: str, kind: str) -> tuple[str, ...]:
    row = table("drawn").get(kind)
    if row is not None:
        return tuple(row["parts"])
    return tuple(dict.fromkeys(part for op in layout.operations if shape in op.shows for part in op.reaches))
