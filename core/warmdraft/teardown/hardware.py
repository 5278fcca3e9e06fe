"""Names of things at the bench: fasteners, devices, terminals, colours, parts. Codes where we know them.

A layout of somebody's own may call a thing what it likes; such a name is its own word. What was written before there
were codes is read as what it meant.
"""

from __future__ import annotations

import re
from typing import Any

from warmdraft.tables import table

_NOT_OF_A_CODE = re.compile(r"[^a-z0-9]+")
#: A fastener's key: its kind, its length, and which one it is where two are alike.
_KEY = re.compile(r"(?P<kind>.*?)(?P<rest>( [\d.]+ mm)?( #\d+)?)")
#: What a layout's fasteners and wires say by codes, and the table of each.
_FASTENER_NAMES = {"kind": "fastener", "finish": "finish", "thread": "thread"}
_WIRE_NAMES = {"device": "device", "terminal": "terminal", "colour": "colour"}
_OPERATION_NAMES = {"uses_up": "part", "carries_over": "part", "gear": "gear"}


def code_of(what: str, name: str) -> str:
    """The code that a name stands for; the name itself where none does.

    what: a table of the hardware: fastener, finish, thread, device, terminal, colour, part, gear, tool.

    >>> code_of("terminal", "coil plug, two pins"), code_of("device", "my own relay")
    ('coil_plug_two_pins', 'my own relay')
    """
    code = _NOT_OF_A_CODE.sub("_", name.lower()).strip("_")
    known: dict[str, Any] = table("hardware")[what]
    return code if code in known else name


def head_of(kind: str) -> str:
    """How a kind of fastener is drawn: hex, hex_washer, round, countersunk, nut or clip.

    >>> head_of('hex_head'), head_of('something of my own')
    ('hex', 'round')
    """
    row = table("hardware")["fastener"].get(kind)
    return str(row["head"]) if row else "round"


def wire_key(device: str, terminal: str) -> str:
    """What a note about a wire names."""
    return f"{device} · {terminal}"


def key_of(what: str, key: str) -> str:
    """A tally's key by today's codes, whenever it was written.

    >>> key_of("fastener", "hex head 18 mm #2"), key_of("wire", "thermal fuse · left")
    ('hex_head 18 mm #2', 'thermal_fuse · left')
    """
    if what == "fastener":
        found = _KEY.fullmatch(key)
        assert found is not None  # every text matches
        return code_of("fastener", found["kind"]) + found["rest"]
    if what == "wire":
        device, dot, terminal = key.partition(" · ")
        return wire_key(code_of("device", device), code_of("terminal", terminal)) if dot else key
    return code_of(what, key)


def with_codes(document: dict[str, Any]) -> dict[str, Any]:
    """A layout's document with codes for the words that earlier releases wrote in their place.

    >>> lid = {'id': 'lid', 'wires': [{'device': 'thermal fuse', 'terminal': 'left'}]}
    >>> with_codes({'operations': [lid]})['operations'][0]['wires']
    [{'device': 'thermal_fuse', 'terminal': 'left'}]
    """

    def coded(row: dict[str, Any], names: dict[str, str]) -> dict[str, Any]:
        return row | {key: code_of(what, row[key]) for key, what in names.items() if isinstance(row.get(key), str)}

    def operation(row: dict[str, Any]) -> dict[str, Any]:
        changed: dict[str, Any] = {
            "fasteners": [coded(part, _FASTENER_NAMES) for part in row.get("fasteners", ())],
            "wires": [coded(part, _WIRE_NAMES) for part in row.get("wires", ())],
        } | {key: [code_of(what, name) for name in row.get(key, ())] for key, what in _OPERATION_NAMES.items()}
        return row | {key: value for key, value in changed.items() if key in row}

    return document | {"operations": [operation(row) for row in document["operations"]]}
