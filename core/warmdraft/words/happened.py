"""What happened on a job, as a sentence without its subject: the history says who."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from warmdraft.checks import checks
from warmdraft.faults import catalogue
from warmdraft.repair import GRADES, act_of_step, acts
from warmdraft.teardown import Layout, key_of, stage_and_name
from warmdraft.words.bench import STEP_TABLES, BenchWords
from warmdraft.words.codes import plain
from warmdraft.words.numbers import UNIT_LOOK

Facts = Mapping[str, Any]


class HistoryWords(BenchWords):
    """The lines of a history, from what each changed."""

    def happened(self, what: str, before: Facts | None, after: Facts | None, layout: Layout | None = None) -> str:
        """The sentence of a happening; one that has no words yet is named by its code.

        layout: of the machine, whose steps it may name.
        """
        if what == "handed_over" and after and "override" in after:
            what = "overridden"
        words = self.texts("codes")["happened"].get(what)
        if words is None:
            return plain(what)
        was, now = before or {}, after or {}
        said = Said(self, was, now, layout)
        fill = {name: make(said) for name, make in _FILL.items() if f"{{{name}}}" in words}
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
        said = [self.complaints(after[key]) if key == "complaints" else self.changed(key) for key in changed]
        return ", ".join(said) or self.word("history", "nothing")

    def changed(self, what: str) -> str:
        """What of a job or a machine was changed, by its code."""
        return str(self.texts("codes")["changed"].get(what, plain(what)))

    def looked(self, after: Facts) -> str:
        """The check of a finding, without its question mark."""
        name = str(after.get("check_name", ""))
        return self.check(name).rstrip("?") if name in checks() else plain(name)

    def counted(self, after: Facts, layout: Layout | None) -> str:
        """What was counted, or said of it."""
        what, key = str(after.get("what") or ""), str(after.get("key") or "")
        key = key_of(what, key) if what else key  # what was written before there were codes
        kind, _, rest = key.partition(" ")
        if what == "wire":
            device, dot, terminal = key.partition(" · ")
            key = self.wire(device, terminal) if dot else key
        elif what == "fastener":
            key = f"{self.fastener_kind(kind, 1)} {rest}".strip()
        elif what in ("part", "tool"):
            key = self.thing(what, key)
        step = str(after.get("step") or "")
        where = self.named_step(step, layout) if stage_and_name(step)[1] else ""
        number = "" if what in ("wire", "part") else f"{after.get('count')} "
        state = str(after.get("state") or "")
        said = f"{number}{key} {self.texts('codes')['counted'].get(state, plain(state))}"
        at = f" {self.word('history', 'at').format(where=where)}" if where else ""
        return said + at + (f", {after['note']}" if after.get("note") else "")

    def found(self, after: Facts) -> str:
        """How much of it there was, and what else."""
        grade, grams = after.get("grade"), after.get("grams")
        rows = ["" if grade is None else f"{grade}/{GRADES - 1}", "" if grams is None else f"{grams:g} g"]
        rows.append(str(after.get("objects") or ""))
        return "".join(f", {row}" for row in rows if row)

    def numbered(self, after: Facts) -> str:
        """A part by its kind, with its number where one is meant."""
        kind = str(after.get("part") or (after.get("marks") or {}).get("kind") or "")
        number = str(after.get("number") or "")
        return self.thing("part", kind) + (f" {number}" if number else "")

    def heard(self, source: str) -> str:
        """What a recording told within a sentence, of whatever release it is."""
        return str(self.texts("sound")["source"].get(source, plain(source)))

    def new_run(self, before: Facts, after: Facts) -> str:
        """What was drawn of a new run: what was chosen of it, or how much stands in its way."""
        plan = after.get("plan")
        if plan is None:
            return self.word("history", "new_run_away")
        chosen = plan.get("chosen")
        if chosen and chosen != (before.get("plan") or {}).get("chosen"):
            book = self.texts("vent")
            outlet, face = (str(chosen.get(key) or "") for key in ("outlet", "face"))
            return f"{book['outlet'].get(outlet, plain(outlet))}, {book['face'].get(face, plain(face))}"
        return self.word("history", "new_run_things").format(count=len(plan.get("things") or []))

    def besides(self, parts: list[str]) -> str:
        """What else is wanted on the way."""
        if not parts:
            return ""
        return self.word("history", "besides").format(parts=", ".join(self.thing("part", part) for part in parts))

    def named_step(self, step: str, layout: Layout | None) -> str:
        """A step within a sentence, of whatever release or layout it is."""
        stage, name = stage_and_name(step)
        operation = next((op for op in layout.operations if op.id == name), None) if layout else None
        act, table = act_of_step(name) if stage == "mend" else None, STEP_TABLES.get(stage)
        if act is not None:
            return self.within(self.act_step(act.name, name)["does"].rstrip("."))
        if operation is not None and stage in ("open", "close"):
            return self.word("history", stage).format(what=self.short(operation))
        if table is not None and name in self.texts(table):
            return self.within(str(self.texts(table)[name]["does"]).rstrip("."))
        return plain(step)

    def known_act(self, name: str) -> str:
        """An act on a part within a sentence, of whatever release it is."""
        return self.within(self.act(name)) if name in acts() else plain(name)

    def known_fault(self, name: str) -> str:
        """A fault within a sentence, of whatever release it is."""
        return self.fault_within(name) if name in catalogue() else plain(name)

    def typed(self, after: Facts) -> str:
        """A number as it was typed, with its unit."""
        typed, unit = str(after.get("typed") or ""), str(after.get("unit") or "")
        look = UNIT_LOOK.get(unit, (unit, 0))[0]
        if not typed:
            return f"{after.get('value', '')} {look}".strip()
        if typed in (said := self.texts("codes")["typed"]):
            return str(said[typed])
        return typed if not unit or unit in typed or look in typed else f"{typed} {look}"


@dataclass(frozen=True, slots=True)
class Said:
    """What a sentence of a history is made of: the facts before and after, and the machine's layout."""

    words: HistoryWords
    before: Facts
    after: Facts
    layout: Layout | None


#: How each place of a sentence is filled.
_FILL: dict[str, Callable[[Said], str]] = {
    "complaints": lambda said: said.words.complaints(said.after.get("complaints", [])),
    "changes": lambda said: said.words.changes(said.before, said.after),
    "reading": lambda said: said.words.reading(str(said.after.get("kind", ""))),
    "typed": lambda said: said.words.typed(said.after),
    "check": lambda said: said.words.looked(said.after),
    "result": lambda said: said.words.result(str(said.after.get("check_name", "")), str(said.after.get("result", ""))),
    "part": lambda said: said.words.meter_part(str(said.after.get("part", ""))).lower(),
    "line_act": lambda said: said.words.known_act(str(said.after.get("act") or "")) + said.words.found(said.after),
    "thing": lambda said: said.words.numbered(said.after),
    "sum": lambda said: f"{said.after.get('total', '')} {said.after.get('currency', '')}".strip(),
    "log": lambda said: said.words.reading(str(said.after.get("kind", ""))),
    "sound": lambda said: said.words.heard(str(said.after.get("verdict", ""))),
    "minutes": lambda said: f"{max(said.after.get('minutes') or [0]):.0f}",
    "pieces": lambda said: str(len((said.after.get("vent") or {}).get("pieces", []))),
    "new_run": lambda said: said.words.new_run(said.before, said.after),
    "step": lambda said: said.words.named_step(str(said.after.get("step") or ""), said.layout),
    "counted": lambda said: said.words.counted(said.after, said.layout),
    "does": lambda said: str((said.after.get("operation") or {}).get("does", "")),
    "act": lambda said: said.words.known_act(f"{said.after.get('part')}.{said.after.get('act')}"),
    "line": lambda said: said.words.known_act(stage_and_name(str(said.after.get("step") or ""))[1]),
    "besides": lambda said: said.words.besides(said.after.get("also") or []),
    "because": lambda said: f", {why}" if (why := str(said.after.get("why") or "")) else "",
    "why": lambda said: str(said.after.get("why") or said.words.word("history", "no_reason")),
    "fault": lambda said: said.words.known_fault(str(said.after.get("fault", ""))),
    "where": lambda said: ", ".join(said.words.changed(key) for key in said.after),
    "why_again": lambda said: str(said.after.get("why", "")),
    "override": lambda said: str(said.after.get("override", "")),
}
