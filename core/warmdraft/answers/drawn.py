"""The cut-away of a machine, and what each of its shapes stands for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from warmdraft.words import Words
from warmdraft.work import JobFacts, parts_drawn, with_departures


@dataclass(slots=True)
class ShapeAnswer:
    """A shape of the drawing that stands for parts; text: those parts, to be read."""

    shape: str
    parts: list[str]
    text: str


@dataclass(slots=True)
class DrawnAnswer:
    """A machine cut open from the side; null where nobody knows it, or its layout has no drawing."""

    title: str
    drawing: Mapping[str, Any] | None
    shapes: list[ShapeAnswer]


def drawn_answer(facts: JobFacts, words: Words) -> DrawnAnswer:
    """What a screen draws where a part is to be touched: of the machine alone, no verdict is asked for."""
    layout = with_departures(facts).layout
    if layout is None:
        return DrawnAnswer("", None, [])
    found = parts_drawn(layout, facts.machine.heat.energy)
    shapes = [
        ShapeAnswer(name, list(parts), ", ".join(words.thing("part", part) for part in parts))
        for name, parts in found.items()
    ]
    return DrawnAnswer(layout.title, layout.drawing, shapes)
