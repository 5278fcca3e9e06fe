"""The bench and its ways in words."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from warmdraft.tables import table
from warmdraft.teardown import SURPRISE, Along, Fastener, Layout, Operation, Problem, Way, fastener_keys

#: More names than this in one sentence are too many.
_MOST_NAMES = 3


def part_words(part: str) -> str:
    """A part that is reached; one of somebody's own layout by its name."""
    return str(table("words_en_bench")["part"].get(part, part.replace("_", " ")))


def area_words(area: str) -> str:
    """An area of a machine."""
    return str(table("words_en_bench")["area"].get(area, area.replace("_", " ").capitalize()))


def fastener_words(fastener: Fastener, count: int) -> str:
    """ "5 hex head screws, 18 mm, zinc, into plastic": as a person asks for them."""
    kind = fastener.kind
    if "head" in kind or kind == "countersunk":
        kind = f"{kind} screw"
    rest = [
        f"{fastener.length_mm:g} mm" if fastener.length_mm is not None else "",
        f"{fastener.thread} thread" if fastener.thread else "",
        fastener.finish or "",
        f"into {fastener.goes_into}" if fastener.goes_into else "",
    ]
    return ", ".join([f"{count} {kind}{'' if count == 1 else 's'}", *filter(None, rest)])


def _short(operation: Operation) -> str:
    words = operation.does.split(":")[0].rstrip(".")
    return words[0].lower() + words[1:]


def problem_words(problem: Problem, layout: Layout, steps: Mapping[str, str]) -> str:
    """What the gate stands on, with where it belongs. steps: words of steps that are no operation."""
    known = {op.id: op for op in layout.operations}
    operation = known.get(problem.operation)
    left = problem.expected - problem.counted
    subject = steps.get(problem.subject, problem.subject)
    if operation is not None and problem.subject in fastener_keys(operation):
        fastener = operation.fasteners[fastener_keys(operation).index(problem.subject)]
        subject = fastener_words(fastener, 2).split(" ", 1)[1] if abs(left) != 1 else fastener_words(fastener, 1)[2:]
    elif operation is None and problem.operation and abs(left) != 1:
        subject += "s"
    words = table("words_en_bench")["accepted" if problem.reason else "problem"][problem.code]
    place = _short(operation) if operation else problem.operation.removeprefix(SURPRISE)
    return str(words).format(
        place=place, subject=subject, expected=problem.expected,
        counted=problem.counted, left=left, missing=left, reason=problem.reason,
        left_verb="they belong" if left != 1 else "it belongs",
    )  # fmt: skip


def way_words(way: Way) -> str:
    """What a way is called by: "by the back, shaft held from behind"."""
    return ", ".join(way.by) or str(table("words_en_bench")["way"]["plain"])


def _names(operations: Sequence[Operation]) -> str:
    shown = [_short(op) for op in operations if op.way] or [_short(op) for op in operations]
    more = len(shown) - _MOST_NAMES
    return _all_of(shown[:_MOST_NAMES] + ([f"{more} more"] if more > 0 else []))


def _all_of(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}" if names else ""


def why_words(way: Way, all_ways: Sequence[Way]) -> str:
    """Why the first is first, or what another one costs and gives."""
    words = table("words_en_bench")["way"]
    if way is all_ways[0]:
        if len(all_ways) == 1:
            return str(words["only"])
        return str(words["first"]).format(minutes=round(all_ways[1].longer), takes=_names(all_ways[1].takes))
    more = sorted(set(way.also_reaches) - set(all_ways[0].also_reaches))
    code = "as_long" if round(way.longer) == 0 else "longer_reaches" if more else "longer"
    reaches = [part_words(part) for part in more]
    many = len(reaches) - _MOST_NAMES
    shown = _all_of(reaches[:_MOST_NAMES] + ([f"{many} more"] if many > 0 else []))
    return str(words[code]).format(minutes=round(way.longer), takes=_names(way.takes), reaches=shown)


def along_words(along: Along) -> str:
    """ "drum felt: 9 min more now, 52 min spared"."""
    more = "no more now" if along.minutes_more < 0.5 else f"{along.minutes_more:.0f} min more now"
    return f"{part_words(along.part)}: {more}, {along.minutes_spared:.0f} min spared"


def school_words(ways: Sequence[Way]) -> tuple[str, ...]:
    """Where practitioners differ about these ways: both schools, and which we pick."""
    words = table("words_en_bench")["school"]
    schools = {op.way for way in ways for op in way.plan.closing if op.way}
    said = []
    if any(op.school for way in ways for op in (*way.takes, *way.spares)):
        said.append(str(words["drum"]))
    if "wheel from below" in schools:
        said.append(str(words["cramped"]))
    if "front hung on hooks" in schools:
        said.append(str(words["front"]))
    return tuple(said)
