"""The bench and its ways in words."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from warmdraft.teardown import (
    NOWHERE,
    Discrepancy,
    Fastener,
    Layout,
    Operation,
    Way,
    fastener_keys,
    fits_also,
    name_at,
    schools_of,
    stage_and_name,
)
from warmdraft.words.codes import Codes
from warmdraft.words.protocol import StepWords
from warmdraft.work import Because, Step

#: The table of the steps of a stage; what is mended is of the acts, what is opened and closed a layout's.
STEP_TABLES = {"make_safe": "safety", "close": "closing"}
#: More names than this in one sentence are too many (own assumption).
_MOST_NAMES = 3


class BenchWords(Codes):
    """Steps, screws, wires, ways."""

    def step(self, step: Step) -> StepWords:
        """What to do, with what, what to mind."""
        stage, name = stage_and_name(step.id)
        if step.operation is not None:
            return self._operation(step.operation, closing=stage == "close")
        if step.act is not None:
            row = self.act_step(step.act.name, name)
        else:
            row = self.texts(STEP_TABLES[stage])[name]
        caution = row.get("caution")
        return StepWords(
            row["does"], why=row.get("why", ""), cautions=(caution,) if caution else (),
            gear=tuple(self.thing("gear", item) for item in step.act.gear) if step.act else (),
            tools=tuple(self.thing("tool", tool) for tool in step.act.tools) if step.act else (),
            fails=row.get("fails", ""),
        )  # fmt: skip

    def _operation(self, op: Operation, closing: bool) -> StepWords:
        words = self.texts("bench")["step"]
        states = {"out": "back_in", "loosened": "tight_again"} if closing else {"out": "out", "loosened": "loosened"}
        put_back = str(words["put_back"]).format(does=self.within(op.does))
        latch = self.texts("latches")[op.latch] if op.latch and not closing else None
        return StepWords(
            does=(op.back or put_back) if closing else op.does,
            driver=self.driver(op.driver) if op.driver else None,
            driver_also=tuple(self.driver(other) for other in fits_also(op.driver)) if op.driver else (),
            fasteners=tuple(
                str(words[states[f.state]]).format(count=f.count, kind=self.fastener_kind(f.kind, f.count))
                for f in op.fasteners
            ),
            cautions=op.cautions if closing else (*op.cautions, *op.cautions_off),
            check=op.check if closing else (),
            latch=str(words["latch"]).format(**latch) if latch else None,
            gear=tuple(self.thing("gear", item) for item in op.gear),
        )

    def within(self, sentence: str) -> str:
        """A sentence's beginning within another one."""
        return sentence[0].lower() + sentence[1:] if sentence else sentence

    def short(self, operation: Operation) -> str:
        """An operation within a sentence: what it does, without how."""
        return self.within(operation.does.split(":")[0].rstrip("."))

    def fasteners(self, fastener: Fastener, count: int) -> str:
        """ "5 hex head screws, 18 mm, zinc, into plastic": as a person asks for them."""
        return f"{count} {self._described(fastener, count)}"

    def _described(self, fastener: Fastener, count: int) -> str:
        rest = [
            f"{fastener.length_mm:g} mm" if fastener.length_mm is not None else "",
            self.thing("thread", fastener.thread) if fastener.thread else "",
            self.thing("finish", fastener.finish) if fastener.finish else "",
            self.thing("into", fastener.goes_into) if fastener.goes_into else "",
        ]
        return ", ".join([self.fastener_kind(fastener.kind, count), *filter(None, rest)])

    def discrepancy(self, row: Discrepancy, layout: Layout) -> str:
        """What the gate stands on, with where it belongs."""
        name = name_at("open", row.step)
        operation = next((op for op in layout.operations if op.id == name), None)
        left = row.expected - row.counted
        book = self.texts("bench")
        return str(book["accepted" if row.reason else "problem"][row.code]).format(
            place=self.short(operation) if operation else stage_and_name(row.step)[1],
            subject=self._subject(row, operation, abs(left)), expected=row.expected, counted=row.counted, left=left,
            missing=left, reason=row.reason, verb=book["verb"]["one" if left == 1 else "many"],
        )  # fmt: skip

    def _subject(self, row: Discrepancy, operation: Operation | None, left: int) -> str:
        if row.code == "undone":
            return self.step(Step(row.subject)).does
        if row.code == "tools":
            return self.thing("tool", row.subject)
        if row.code in ("used_up", "carried_over"):
            return self.thing("part", row.subject)
        wires = {wire.key: wire for wire in operation.wires} if operation else {}
        if row.subject in wires:
            return self.wire(wires[row.subject].device, wires[row.subject].terminal)
        if operation is not None and row.subject in fastener_keys(operation):
            return self._described(operation.fasteners[fastener_keys(operation).index(row.subject)], left)
        return self.fastener_kind(row.subject, left if row.step != NOWHERE else row.counted)

    def order(self, fastener: Fastener, count: int, operation: Operation) -> str:
        """What is missing, as a line of an order."""
        place = operation.does.split(":")[0].lower()
        return str(self.texts("bench")["order"]["text"]).format(fasteners=self.fasteners(fastener, count), place=place)

    def way(self, way: Way) -> str:
        """What a way is called by: "by the back, shaft held from behind"."""
        return ", ".join(way.by) or str(self.texts("bench")["way"]["plain"])

    def _names(self, operations: Sequence[Operation]) -> str:
        shown = [self.short(op) for op in operations if op.way] or [self.short(op) for op in operations]
        return self.all_of(shown, _MOST_NAMES)

    def why_this_way(self, way: Way, all_ways: Sequence[Way]) -> str:
        """Why the first is first, or what another one costs and gives."""
        words = self.texts("bench")["way"]
        if way is all_ways[0]:
            if len(all_ways) == 1:
                return str(words["only"])
            return str(words["first"]).format(minutes=round(all_ways[1].longer), takes=self._names(all_ways[1].takes))
        more = sorted(set(way.also_reaches) - set(all_ways[0].also_reaches))
        code = "as_long" if round(way.longer) == 0 else "longer_reaches" if more else "longer"
        reaches = self.all_of([self.thing("part", part) for part in more], _MOST_NAMES)
        return str(words[code]).format(minutes=round(way.longer), takes=self._names(way.takes), reaches=reaches)

    def act(self, name: str) -> str:
        """An act on a part, as a line of works: "Replace the drum's felt"."""
        return str(self.texts("acts")[name]["words"])

    def act_step(self, act: str, step: str) -> Mapping[str, Any]:
        """The words of a step of an act: does, and caution where there is one."""
        found: Mapping[str, Any] = next(row for row in self.texts("acts")[act]["steps"] if row["id"] == step)
        return found

    def because(self, row: Because) -> str:
        """Why a line of works is there."""
        words = self.texts("bench")["because"]
        fault, more = row.fault or row.of, row.minutes_more or 0
        code: str = row.kind
        if row.kind == "along":
            code = "stays" if row.minutes_spared is None else "along" if more >= 0.5 else "along_free"
        if row.kind == "consequence" and row.of is None:
            code = "consequence_of_what"
        return str(words[code]).format(
            fault=self.fault_within(fault) if fault else "",
            found=self._gave(row.check, row.verdict) if row.check and row.verdict else "",
            percent=round(100 * (row.probability or 0)), more=round(more),
            spared=round(row.minutes_spared or 0),
        )  # fmt: skip

    def _gave(self, check: str, result: str) -> str:
        """ "Lamp round the rear felt: a gap"."""
        return str(self.texts("bench")["because"]["found"]).format(
            check=self.check(check), result=self.result(check, result)
        )

    def schools(self, ways: Sequence[Way]) -> tuple[str, ...]:
        """Where practitioners differ about these ways: both schools, and which we pick."""
        words = self.texts("bench")["school"]
        return tuple(str(words[school]) for school in schools_of(ways))
