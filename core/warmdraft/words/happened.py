"""What happened on a job, as a sentence without its subject: the history says who."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from warmdraft.tables import table
from warmdraft.words.english import English

Facts = dict[str, Any]


def _plain(value: object) -> str:
    return str(value or "").replace("_", " ").replace(".", ": ")


def _complaints(names: list[str]) -> str:
    rows = table("complaints")
    return ", ".join(str(rows[name]["words"]) if name in rows else _plain(name) for name in names) or "nothing said yet"


def _changes(before: Facts, after: Facts) -> str:
    changed = [key for key in after if before.get(key) != after[key]]
    said = [_complaints(after[key]) if key == "complaints" else _plain(key) for key in changed]
    return ", ".join(said) or "nothing"


def _check(english: English, name: str) -> str:
    return english.check(name).rstrip("?") if name in table("words_en_checks") else _plain(name)


def _result(check: str, result: str) -> str:
    words = table("words_en_checks").get(check, {}).get("results", {}) | table("words_en")["result"]
    return str(words.get(result, _plain(result)))


def _known(words: Facts, name: str) -> str:
    return str(words.get(name, _plain(name)))


#: How each place of a sentence is filled, from the facts before and after.
_FILL: dict[str, Callable[[English, Facts, Facts], str]] = {
    "complaints": lambda _, __, after: _complaints(after.get("complaints", [])),
    "changes": lambda _, before, after: _changes(before, after),
    "reading": lambda _, __, after: _known(table("words_en")["reading"], str(after.get("kind", ""))),
    "typed": lambda _, __, after: f"{_plain_number(after)}",
    "check": lambda english, _, after: _check(english, str(after.get("check_name", ""))),
    "result": lambda _, __, after: _result(str(after.get("check_name", "")), str(after.get("result", ""))),
    "part": lambda _, __, after: _known(table("words_en_meter")["part"], str(after.get("part", ""))).lower(),
    "log": lambda _, __, after: _known(table("words_en")["log"], str(after.get("kind", ""))),
    "minutes": lambda _, __, after: f"{max(after.get('minutes') or [0]):.0f}",
    "pieces": lambda _, __, after: str(len((after.get("vent") or {}).get("pieces", []))),
    "step": lambda _, __, after: _plain(after.get("step")),
    "counted": lambda _, __, after: _counted(after),
    "besides": lambda _, __, after: ", besides: " + _plain(", ".join(after["also"])) if after.get("also") else "",
    "why": lambda _, __, after: str(after.get("why") or "no reason given"),
    "fault": lambda _, __, after: _known(table("words_en")["fault"], str(after.get("fault", ""))).lower(),
    "where": lambda _, __, after: _plain(", ".join(after)),
    "why_again": lambda _, __, after: str(after.get("why", "")),
    "override": lambda _, __, after: str(after.get("override", "")),
}


def _counted(after: Facts) -> str:
    where = _plain(after.get("step")).removeprefix("open: ")
    number = "" if after.get("what") in ("wire", "part") else f"{after.get('count')} "
    said = f"{number}{after.get('key')} {_plain(after.get('state'))}"
    return said + (f" at {where}" if where else "") + (f", {after['note']}" if after.get("note") else "")


def _plain_number(after: Facts) -> str:
    typed, unit = str(after.get("typed") or ""), str(after.get("unit") or "")
    if not typed:
        return f"{after.get('value', '')} {unit}".strip()
    return _plain(typed) if typed.startswith("needle") or not unit or unit in typed else f"{typed} {unit}"


def from_file_words(by: str, brought_by: str) -> str:
    """Who did something that a file brought in: the file's word for it, and who stands for the file."""
    words = table("words_en")["from_file"]
    return str(words["named" if by else "unnamed"]).format(by=by, brought_by=brought_by)


def happened(english: English, what: str, before: Facts | None, after: Facts | None) -> str:
    """The sentence of a happening; one that has no words yet is named by its code."""
    if what == "handed_over" and after and "override" in after:
        what = "overridden"
    words = table("words_en")["happened"].get(what)
    if words is None:
        return _plain(what)
    fill = {name: make(english, before or {}, after or {}) for name, make in _FILL.items() if f"{{{name}}}" in words}
    return str(words).format(**fill)
