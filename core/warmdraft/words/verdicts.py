"""The verdict in words: what stands first, how sure, how bad, what to do next, and what was read."""

from __future__ import annotations

import math
from collections.abc import Sequence

from warmdraft.airway import reading_dimensions
from warmdraft.diagnosis import Choice, Headline, Lamps, Otherwise, Verdict, weighs
from warmdraft.faults import catalogue, open_share_of
from warmdraft.heat import DryingRun
from warmdraft.machine import Airway
from warmdraft.meter import MeterVerdict
from warmdraft.proof import Comparison, Line, Proof, Settles, Standing
from warmdraft.repair import name_of
from warmdraft.trend import Trend
from warmdraft.units import Dimension
from warmdraft.words.codes import Codes
from warmdraft.words.numbers import decimals
from warmdraft.words.protocol import Sentences
from warmdraft.work import NextStep

_FLOW: Dimension = "flow"
#: Digits after the point of a fault's severity, by its effect.
_DIGITS = {"resistance_times": 0, "leak_times": 0, "bypass": 1}

#: From here on times likelier are whole, and more than so many are not told apart (own choices).
_WHOLE_FROM, _MOST_TIMES = 10.0, 1000.0
#: Nobody is told to be surer than this (own assumption).
MOST_SURE = 0.99


def _apart(row: Comparison) -> Dimension:
    """Dimension of a difference of two such readings: one of temperatures has no offset."""
    dimension = reading_dimensions()[row.kind]
    return "temperature_difference" if dimension == "temperature" else dimension


class VerdictWords(Codes):
    """What the facts say."""

    def sure(self, probability: float) -> str:
        """A probability in words."""
        return self._at_least("sure", probability)

    def _at_least(self, kind: str, value: float) -> str:
        rows = self.texts("codes")[kind]["words"]
        return str(next(row["text"] for row in rows if value >= row["least"]))

    def severity(self, fault: str, severity: tuple[float, float, float] | None, airway: Airway) -> str | None:
        """How bad, from the low, middle and high severity; None where a fault has no severity."""
        effect = catalogue()[fault].effect
        if severity is None or effect is None:
            return None
        if fault == "transition_crushed":
            area = self._at_least("area_left", open_share_of(severity[1], airway))
            return self.word("severity", "pinch").format(area=area)
        words = self.texts("codes")["severity"].get(effect)
        if words is None:
            return None
        low, _, high = severity
        if effect in _DIGITS:
            said = [decimals(low, _DIGITS[effect]), decimals(high, _DIGITS[effect])]
        elif effect in ("room_deficit", "outdoor_pressure"):
            said = [self.number(low, "pressure"), self.quantity(high, "pressure")]
        else:
            said = [decimals(low * 100, 0), f"{decimals(high * 100, 0)} %"]
        return str(words).format(low=said[0], high=said[1])

    def headline(self, headline: Headline, verdict: Verdict) -> Sentences:
        """The sentence that stands first, and the second one."""
        leading = verdict.faults[0]
        flow, healthy = verdict.flow, verdict.healthy_readings["outlet_flow"]
        why = self.texts("codes")["headline_why"]
        short_of = str(why["air_unknown" if flow.kind == "unknown" else "short_of"]).format(
            now=self.quantity(flow.median, _FLOW), healthy=self.number(healthy, _FLOW),
            known=self.word("flow", flow.kind),
        )  # fmt: skip
        text = self.word("headline", headline.code).format(
            fault=self.fault_within(leading.fault),
            fault_name=self.fault(leading.fault),
            sure=self.sure(leading.probability),
            places=self.one_of(self.word("zone", zone) for zone in headline.zones),
            reading=self.reading(verdict.misfits[0].reading) if verdict.misfits else "",
        )
        return Sentences(text, str(why.get(headline.code, "{short_of}")).format(short_of=short_of))

    def otherwise(self, found: Otherwise) -> str:
        """What may be otherwise than told."""
        return self.word("otherwise", found.code).format(kind=self.profile(found.profile))

    def heat_lamp(self, lamps: Lamps) -> str:
        """What the lamp of the heat says."""
        return self.fault(lamps.heat_fault) if lamps.heat == "suspect" else self.word("lamp", lamps.heat)

    def supply_lamp(self, lamps: Lamps) -> str:
        """What the lamp of the supply says."""
        if lamps.volts is None:
            return self.word("lamp", lamps.supply)
        rated = self.quantity(lamps.rated_v, "voltage")
        return self.word("lamp", "supply").format(volts=self.number(lamps.volts, "voltage"), rated=rated)

    def consequence(self, part: str, of: str | None) -> str:
        """What got hot, and for what."""
        words = self.texts("codes")["consequence"]
        cause = words["cause_not_found"] if of is None else words["because"].format(fault=self.fault_within(of))
        return f"{words[part]}: {cause}"

    def weight(self, nats: float) -> str:
        """Which way evidence speaks, and by how many times; to one figure, for more nobody knows."""
        times = math.exp(min(abs(nats), math.log(_MOST_TIMES)))
        said = decimals(times, 1) if times < _WHOLE_FROM else decimals(float(f"{times:.1g}"), 0)
        if times >= _MOST_TIMES:
            said = self.word("join", "over").format(number=said)
        return self.word("weight", weighs(nats)).format(times=said)

    def cause(self, fault: str, heat_unexplained: bool) -> str:
        """A cause as it stands on the record."""
        said = self.fault(fault)
        return f"{said}; {self.word('consequence', 'on_record')}" if heat_unexplained else said

    def next(self, step: NextStep) -> str:
        """What stands on the one button."""
        match step.code:
            case "check":
                return self.check(step.subject or "")
            case "measure_again":
                return self.word("next", step.code).format(reading=self.reading(step.subject or ""))
            case "measure_more" | "prove_also":
                return self.word("next", step.code).format(check=self.check(step.subject or ""))
            case "choose_cause":
                return self.word("next", step.code).format(fault=self.fault_within(step.subject or ""))
            case _:
                return self.word("next", step.code)

    def choice(self, row: Choice) -> str:
        """A way to go on, and what is expected of it."""
        what = self.fault(row.subject) if row.do == "mend" else self.check(row.subject)
        return self.word("choice", row.do).format(what=what, minutes=decimals(row.expected_minutes, 0))

    def choose(self, rows: Sequence[Choice]) -> str:
        """Mending now against checking first, in minutes."""
        mend = next(row for row in rows if row.do == "mend")
        check = next((row for row in rows if row.do == "check"), None)
        now = decimals(mend.expected_minutes, 0)
        if check is None:
            return self.word("choice", "nothing_left").format(now=now)
        return self.word("choice", "of_two").format(now=now, first=decimals(check.expected_minutes, 0))

    def was(self, row: Comparison) -> str:
        """ "82 cfm, 88 short of healthy": what was read before the work."""
        return "" if row.before is None or row.stood is None else self._stands(row, row.before, row.stood)

    def _stands(self, row: Comparison, value: float, standing: Standing) -> str:
        gap = self.number(abs(value - row.healthy), _apart(row))
        return self.word("comparison", standing).format(
            value=self.quantity(value, reading_dimensions()[row.kind]), gap=gap
        )

    def comparison(self, row: Comparison) -> str:
        """ "96 cfm, 74 short of healthy; +12 ± 9": what was read after the work against healthy, and what changed."""
        if row.after is None:
            return self.word("comparison", "not_again")
        said = self._stands(row, row.after, row.standing)
        if row.change is None or row.change_low is None:
            return said
        return self.word("change", "of").format(
            said=said, sign="−" if row.change < 0 else "+", change=self.number(abs(row.change), _apart(row)),
            give=self.number(row.change - row.change_low, _apart(row)), kept=self._kept(row),
        )  # fmt: skip

    def _kept(self, row: Comparison) -> str:
        """ ", as promised": what was read after the work against what it was to give."""
        if row.keeps is None or row.after is None or row.expected is None:
            return ""
        return self.word("change", row.keeps).format(gap=self.number(abs(row.after - row.expected), _apart(row)))

    def proof(self, found: Proof) -> Sentences:
        """Whether the work is shown to have helped, and what settles it."""
        decided = found.acceptance
        disproven = [line for line in decided.lines if line.proven is False]
        text = self.word("proof", found.code).format(
            sure=f"{decimals(min(decided.conformity, MOST_SURE) * 100, 0)} %",
            limit=self.quantity(decided.limit_m3s, "flow"),
            line=self._within_line(disproven[0]) if disproven else "",
        )  # fmt: skip
        if found.held:
            fault, share = found.held
            text += " " + self.word("change", "held").format(
                fault=self.fault_within(fault), share=self._at_least("share_left", share)
            )
        if found.settles:
            return Sentences(text, self.word("proof_then", "settles").format(check=self.settles(found.settles[0])))
        return Sentences(text, self.word("proof_then", self._then(found)))

    def _then(self, found: Proof) -> str:
        if found.goes_back:
            return "reject"
        if found.too_hot_to_use:
            return "overheated"
        return found.acceptance.decision if found.measured else "measure_more"

    def proof_line(self, line: Line) -> str:
        """Whether a line of the work is shown, and by what."""
        code = {True: "shown", False: "left", None: "open"}[line.proven]
        by = self.word("shown_by", line.by) if line.by else self.word("shown_by", "nothing")
        if line.fault is None:
            return self.word("proof_line", f"act_{code}").format(act=self._act_of(line), by=by)
        return self.word("proof_line", code).format(fault=self.fault(line.fault), by=by)

    def _act_of(self, line: Line) -> str:
        return str(self.texts("acts")[name_of(line.part, line.act)]["words"])

    def _within_line(self, line: Line) -> str:
        if line.fault is not None:
            return self.fault_within(line.fault)
        act = self._act_of(line)
        return act[:1].lower() + act[1:]

    def settles(self, row: Settles) -> str:
        """A check that may settle it, how often, and how likely it does."""
        code = "once" if row.times == 1 else "times"
        return self.word("settles", code).format(
            check=self.check(row.check),
            times=row.times,
            minutes=decimals(row.minutes, 0),
        )

    def meter_means(self, found: MeterVerdict) -> str:
        """What a meter's reading means."""
        return str(self.texts("meter_words")["means"][found.means])

    def meter_then(self, found: MeterVerdict) -> str:
        """What to do after a meter's reading."""
        book = self.texts("meter_words")
        return str(book["then"][found.then]).format(wanted=book["wanted"].get(found.part, book["wanted"]["rest"]))

    def trend(self, trend: Trend) -> str:
        """What a log shows, with its numbers."""
        return self.word("trend", trend.shape).format(
            start=f"{decimals(trend.start_minute or 0, 0)} min",
            drop=f"{decimals((trend.drop or 0) * 100, 0)} %",
            period=f"{decimals(trend.period_minutes or 0, 1)} min",
            sure=self.sure(trend.probability[trend.shape]),
        )

    def run_warning(self, code: str, value: float | None, limit: float | None) -> str:
        """What a run breaks, with its numbers in this person's units."""
        words = self.texts("vent")["warning"][code]
        numbers = {
            key: "" if number is None else self.as_words_ask(words["in"], number)
            for key, number in (("value", value), ("limit", limit))
        }
        return str(words["text"]).format(**numbers)

    def run_topic(self, code: str) -> str:
        """What a clause about this is about: what to look it up by in the code that is in force."""
        return str(self.texts("vent")["warning"][code]["about"])

    def drying(self, healthy: DryingRun, now: DryingRun | None, cost_a_year: str) -> str:
        """What a load takes, and what that costs more a year."""
        if now is None:
            return self.word("drying", "unknown").format(healthy=healthy.minutes or 0)
        if now.minutes is None:
            return self.word("drying", f"stopped_{now.stopped_by}")
        code = "longer" if now.minutes > 1.05 * (healthy.minutes or now.minutes) else "as_healthy"
        return self.word("drying", code).format(now=now.minutes, healthy=healthy.minutes or 0, cost=cost_a_year)
