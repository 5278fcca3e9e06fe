"""What happened on a job, as a sentence without its subject: the history says who."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from warmdraft.checks import checks
from warmdraft.faults import catalogue
from warmdraft.teardown import stage_and_name
from warmdraft.words.codes import Codes, plain

Facts = Mapping[str, Any]


class HistoryWords(Codes):
    """The lines of a history, from what each changed."""

    def happened(self, what: str, before: Facts | None, after: Facts | None) -> str:
        """The sentence of a happening; one that has no words yet is named by its code."""
        if what == "handed_over" and after and "override" in after:
            what = "overridden"
        words = self.texts("codes")["happened"].get(what)
        if words is None:
            return plain(what)
        was, now = before or {}, after or {}
        fill = {name: make(self, was, now) for name, make in _FILL.items() if f"{{{name}}}" in words}
        return str(words).format(**fill)

    def from_file(self, by: str, brought_by: str) -> str:
        """Who did something that a file brought in: the file's word for it, and who stands for the file."""
        return self.word("from_file", "named" if by else "unnamed").format(by=by, brought_by=brought_by)

    def complaints(self, names: list[str]) -> str:
        """Complaints as people say them."""
        return ", ".join(map(self.complaint, names)) or self.word("history", "nothing_said")

    def changes(self, before: Facts, after: Facts) -> str:
        """What of a job was changed."""
        changed = [key for key in after if before.get(key) != after[key]]
        said = [self.complaints(after[key]) if key == "complaints" else plain(key) for key in changed]
        return ", ".join(said) or self.word("history", "nothing")

    def looked(self, after: Facts) -> str:
        """The check of a finding, without its question mark."""
        name = str(after.get("check_name", ""))
        return self.check(name).rstrip("?") if name in checks() else plain(name)

    def counted(self, after: Facts) -> str:
        """What was counted, or said of it."""
        what, key = str(after.get("what") or ""), str(after.get("key") or "")
        kind, _, rest = key.partition(" ")
        if what == "wire":
            device, dot, terminal = key.partition(" · ")
            key = self.wire(device, terminal) if dot else key
        elif what == "fastener":
            key = f"{self.fastener_kind(kind, 1)} {rest}".strip()
        elif what in ("part", "tool"):
            key = self.thing(what, key)
        where = plain(stage_and_name(str(after.get("step") or ""))[1])
        number = "" if what in ("wire", "part") else f"{after.get('count')} "
        said = f"{number}{key} {plain(after.get('state'))}"
        return said + (f" at {where}" if where else "") + (f", {after['note']}" if after.get("note") else "")

    def known_fault(self, name: str) -> str:
        """A fault within a sentence, of whatever release it is."""
        return self.fault_within(name) if name in catalogue() else plain(name)

    @staticmethod
    def typed(after: Facts) -> str:
        """A number as it was typed, with its unit."""
        typed, unit = str(after.get("typed") or ""), str(after.get("unit") or "")
        if not typed:
            return f"{after.get('value', '')} {unit}".strip()
        return plain(typed) if typed.startswith("needle") or not unit or unit in typed else f"{typed} {unit}"


#: How each place of a sentence is filled, from the facts before and after.
_FILL: dict[str, Callable[[HistoryWords, Facts, Facts], str]] = {
    "complaints": lambda words, _, after: words.complaints(after.get("complaints", [])),
    "changes": lambda words, before, after: words.changes(before, after),
    "reading": lambda words, _, after: words.reading(str(after.get("kind", ""))),
    "typed": lambda words, _, after: words.typed(after),
    "check": lambda words, _, after: words.looked(after),
    "result": lambda words, _, after: words.result(str(after.get("check_name", "")), str(after.get("result", ""))),
    "part": lambda words, _, after: words.meter_part(str(after.get("part", ""))).lower(),
    "log": lambda words, _, after: words.reading(str(after.get("kind", ""))),
    "minutes": lambda _, __, after: f"{max(after.get('minutes') or [0]):.0f}",
    "pieces": lambda _, __, after: str(len((after.get("vent") or {}).get("pieces", []))),
    "step": lambda _, __, after: plain(after.get("step")),
    "counted": lambda words, _, after: words.counted(after),
    "besides": lambda words, _, after: (
        words.word("history", "besides").format(parts=", ".join(words.thing("part", part) for part in after["also"]))
        if after.get("also") else ""
    ),
    "why": lambda words, _, after: str(after.get("why") or words.word("history", "no_reason")),
    "fault": lambda words, _, after: words.known_fault(str(after.get("fault", ""))),
    "where": lambda _, __, after: plain(", ".join(after)),
    "why_again": lambda _, __, after: str(after.get("why", "")),
    "override": lambda _, __, after: str(after.get("override", "")),
}  # fmt: skip
