"""Layouts as data: what comes off, with what, after what, and what it reaches."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from functools import cache
from importlib import resources
from typing import Any

from warmdraft.errors import LayoutError
from warmdraft.tables import SOURCE_LANGUAGE, texts
from warmdraft.teardown.hardware import wire_key
from warmdraft.units import to_si

#: Of an operation's or a layout's row, what chooses and what is shared; the rest is the layout format's.
_OF_ROWS = ("use", "when", "variants", "recognise")


@dataclass(frozen=True, slots=True)
class Fastener:
    """Fasteners of one kind at one operation.

    state: out, or only loosened (a keyhole, a clamp). length_mm: None where nobody said. hidden: where the one is that
    is easily missed; holds: which of them carries the weight; drop_hazard: one that falls is not seen again.
    """

    kind: str
    count: int
    state: str
    length_mm: float | None = None
    goes_into: str | None = None
    thread: str | None = None
    finish: str | None = None
    hidden: str | None = None
    holds: str | None = None
    drop_hazard: bool = False


@dataclass(frozen=True, slots=True)
class Wire:
    """A wire that comes off: known by its device and terminal, never by its colour alone."""

    device: str
    terminal: str
    colour: str
    ground: bool = False

    @property
    def key(self) -> str:
        """What a note about it names."""
        return wire_key(self.device, self.terminal)


@dataclass(frozen=True, slots=True)
class Operation:
    """One thing to take off.

    needs: an AND of ORs of other operations; close_before: those that go back after this one. back, check: how it goes
    back, and what is looked at then; uses_up: parts that have to be new; carries_over: what moves to a new assembly;
    way: what a way in is called by that takes this operation; school: some take it off whether it is needed or not;
    argued: where practitioners differ about the way that takes it, as a code; shows: shapes of the drawing;
    cautions_off: to mind only while it comes off; qualified: what whoever does it has to be qualified for; attachment,
    role: how what it takes off sits on its shaft, and which of the two turns the other (None: a load), as `mending`
    calls them.
    """

    id: str
    does: str
    open_minutes: float
    close_minutes: float
    driver: str | None = None
    needs: tuple[tuple[str, ...], ...] = ()
    reaches: tuple[str, ...] = ()
    fasteners: tuple[Fastener, ...] = ()
    wires: tuple[Wire, ...] = ()
    cautions: tuple[str, ...] = ()
    cautions_off: tuple[str, ...] = ()
    close_before: tuple[str, ...] = ()
    people: int = 1
    area: str = "inside"
    shows: tuple[str, ...] = ()
    latch: str | None = None
    way: str | None = None
    school: bool = False
    argued: str | None = None
    back: str | None = None
    check: tuple[str, ...] = ()
    uses_up: tuple[str, ...] = ()
    carries_over: tuple[str, ...] = ()
    gear: tuple[str, ...] = ()
    qualified: str | None = None
    attachment: str | None = None
    role: str | None = None


@dataclass(frozen=True, slots=True)
class Layout:
    """A kind of machine, by the way into it. electrical: where each electrical part sits in it, by name."""

    name: str
    operations: tuple[Operation, ...]
    driver_change_minutes: float = 0.4
    title: str = ""
    maker: str = ""
    electrical: Mapping[str, str] | None = None
    drawing: Mapping[str, Any] | None = None

    def __hash__(self) -> int:
        return hash((self.name, len(self.operations)))  # two of a name are told apart when they are compared

    def operation(self, name: str) -> Operation:
        """One operation by id."""
        return next(operation for operation in self.operations if operation.id == name)

    @property
    def parts(self) -> tuple[str, ...]:
        """Everything that some operation reaches."""
        return tuple(sorted({part for operation in self.operations for part in operation.reaches}))


def _millimetres(length: Mapping[str, Any] | None) -> float | None:
    """To a thousandth: nobody tells screws apart by less."""
    return None if length is None else round(1000 * to_si(length["value"], length["unit"], "length"), 3)


def _fastener(part: Mapping[str, Any]) -> Fastener:
    rest = {key: value for key, value in part.items() if key in Fastener.__slots__ and value is not None}
    return Fastener(**rest, length_mm=_millimetres(part.get("length")))


def operation_of(part: Mapping[str, Any]) -> Operation:
    """An operation from its part of a layout's document, whose shape is taken for right.

    >>> operation_of({"id": "lid", "does": "Lid up", "open_minutes": 1, "close_minutes": 1, "driver": None}).reaches
    ()
    """
    given = {key: value for key, value in part.items() if key in Operation.__slots__ and value is not None}
    rows: dict[str, Any] = {
        "needs": tuple(tuple(choice) for choice in given.get("needs", ())),
        "fasteners": tuple(_fastener(row) for row in given.get("fasteners", ())),
        "wires": tuple(
            Wire(row["device"], row["terminal"], row["colour"], bool(row.get("ground")))
            for row in given.get("wires", ())
        ),
    }
    lists = ("reaches", "cautions", "cautions_off", "close_before", "shows", "check", "uses_up", "carries_over", "gear")
    return Operation(**given | rows | {name: tuple(given.get(name, ())) for name in lists})


def layout_of(document: Mapping[str, Any]) -> Layout:
    """A layout from its document (`warm-draft/layout`), whose shape is taken for right.

    Raises LayoutError where it names an operation twice, or one that it does not have.

    >>> lid = {'id': 'lid', 'does': 'Lid off', 'open_minutes': 1, 'close_minutes': 1}
    >>> layout_of({'name': 'mine', 'operations': [lid]}).operations[0].does
    'Lid off'
    """
    operations = tuple(operation_of(part) for part in document["operations"])
    known: set[str] = set()
    for i, operation in enumerate(operations):
        if operation.id in known:
            raise LayoutError(f"'{operation.id}' stands twice; give each operation an id of its own", f"[{i}].id")
        known.add(operation.id)
    for i, operation in enumerate(operations):
        named = [(f"[{i}].needs[{j}][{k}]", name) for j, choice in enumerate(operation.needs)
                 for k, name in enumerate(choice)]  # fmt: skip
        named += [(f"[{i}].close_before[{j}]", name) for j, name in enumerate(operation.close_before)]
        for at, name in named:
            if name not in known:
                raise LayoutError(
                    f"'{name}' is no operation of this layout; give one of {', '.join(sorted(known))}", at
                )
        for j, choice in enumerate(operation.needs):
            if not choice:
                raise LayoutError(
                    "offers nothing that would do; name an operation, or leave it out", f"[{i}].needs[{j}]"
                )
        if operation.id in operation.close_before:
            raise LayoutError(f"'{operation.id}' cannot go back before itself", f"[{i}].close_before")
    return Layout(
        document["name"],
        operations,
        document.get("driver_change_minutes", 0.4),
        document.get("title") or document["name"],
        document.get("maker") or "",
        document.get("electrical"),
        document.get("drawing"),
    )


def document_of(layout: Layout) -> dict[str, Any]:
    """A layout as its document (`warm-draft/layout`): what `layout_of` reads as the same again.

    >>> layout_of(document_of(layout('two_motors'))) == layout('two_motors')
    True
    """
    head = {"name": layout.name, "title": layout.title, "maker": layout.maker or None,
            "driver_change_minutes": layout.driver_change_minutes, "electrical": layout.electrical,
            "drawing": layout.drawing}  # fmt: skip
    said = {key: value for key, value in head.items() if value is not None}
    return {"format": "warm-draft/layout", "version": 1} | said | {
        "operations": [operation_document(operation) for operation in layout.operations]
    }  # fmt: skip


def operation_document(operation: Operation) -> dict[str, Any]:
    """An operation as its part of a layout's document: what `operation_of` reads as the same again.

    >>> panel = layout('two_motors').operations[0]
    >>> operation_of(operation_document(panel)) == panel
    True
    """
    plain = asdict(operation)
    always = ("id", "does", "open_minutes", "close_minutes", "driver")
    row = {key: plain[key] for key in always} | {
        "needs": [list(choice) for choice in operation.needs],
        "reaches": list(operation.reaches),
        "fasteners": [_fastener_document(fastener) for fastener in plain["fasteners"]],
    }
    rest = {key: list(value) if isinstance(value, tuple) else value for key, value in plain.items() if key not in row}
    return row | {key: value for key, value in rest.items() if value}


def _fastener_document(plain: Mapping[str, Any]) -> dict[str, Any]:
    length = plain["length_mm"]
    kept = {key: value for key, value in plain.items() if key != "length_mm" and value not in (None, False)}
    return kept if length is None else kept | {"length": {"value": length, "unit": "mm"}}


@cache
def layout_names() -> tuple[str, ...]:
    """Layouts there are data for.

    >>> len(layout_names())
    8
    """
    folder = resources.files("warmdraft").joinpath("data", "layouts")
    return tuple(sorted(file.name.removesuffix(".toml") for file in folder.iterdir()))


@dataclass(frozen=True, slots=True)
class Choice:
    """Something machines of one layout differ in: a name, what to ask, and the answers by name; the first is usual.

    seen: the look by which it is answered while the layout is recognised.
    """

    name: str
    asks: str
    answers: Mapping[str, str]
    seen: str | None = None


def choices_of(name: str, language: str = SOURCE_LANGUAGE) -> tuple[Choice, ...]:
    """In what machines of a layout differ, beyond energy and supply.

    >>> [choice.name for choice in choices_of('top_screen_rear_duct')]
    ['front']
    """
    return tuple(
        Choice(
            key,
            row["asks"],
            {code: text for code, text in row.items() if code not in ("asks", "seen")},
            row.get("seen"),
        )
        for key, row in texts(f"layouts/{name}", language).get("variants", {}).items()
    )


@cache
def layout_document(
    name: str, variant: frozenset[tuple[str, str]] = frozenset(), language: str = SOURCE_LANGUAGE
) -> dict[str, Any]:
    """A layout of ours as its document, for one variant; shared, so nobody changes it.

    variant: (what, answer) pairs: energy, supply, and the layout's own choices; the usual one where nothing is said.
    language: what its operations, cautions and labels are said in.

    >>> layout_document('two_motors')['format']
    'warm-draft/layout'
    """
    row = texts(f"layouts/{name}", language)
    usual = {"energy": "electric", "supply": "plug"} | {c.name: next(iter(c.answers)) for c in choices_of(name)}
    is_ = usual | dict(variant)
    shared = texts("operations", language)
    merged = [shared[op["use"]] | op if "use" in op else op for op in row["operations"]]
    here = [op for op in merged if all(is_[what] in answers for what, answers in op.get("when", {}).items())]
    ids = {op["id"] for op in here}

    def of(op: Mapping[str, Any]) -> dict[str, Any]:
        part = {"driver": None, "needs": [], "reaches": [], "fasteners": []} | {
            key: value for key, value in op.items() if key not in _OF_ROWS
        }
        # what this variant does not have need not come off
        part["needs"] = [left for choice in part["needs"] if (left := [other for other in choice if other in ids])]
        if "close_before" in part:
            part["close_before"] = [other for other in part["close_before"] if other in ids]
        return part

    head = {key: value for key, value in row.items() if key not in (*_OF_ROWS, "operations")}
    return {"format": "warm-draft/layout", "version": 1} | head | {"operations": [of(op) for op in here]}


@cache
def layout(name: str, variant: frozenset[tuple[str, str]] = frozenset(), language: str = SOURCE_LANGUAGE) -> Layout:
    """One layout of ours, for one variant, in a language. Raises LayoutError where it contradicts itself.

    >>> layout('two_motors').operation('pull_out').open_minutes
    2.0
    """
    return layout_of(layout_document(name, variant, language))
