"""What is shown, as typed values: the answers of the verbs, which are those of the web. On top of jobfile and words.

Each answer is made of dataclasses; the JSON of the command line and of the API, and the API's schemas, follow from
them. They are not frozen: they are written out at once, hundreds an answer, and frozen ones take three times as long.
"""

from warmdraft.answers.airway import airway_answer
from warmdraft.answers.balance import BalanceAnswer, balance_answer
from warmdraft.answers.bench import BenchAnswer
from warmdraft.answers.dealt import DealtAnswer, LintAnswer, lint_answer
from warmdraft.answers.documents import diagnose_answer, meter_answer, prove_answer, vent_answer, whole_answer
from warmdraft.answers.drawn import DrawnAnswer, ShapeAnswer, drawn_answer
from warmdraft.answers.drying import TripAnswer, dry_answer, trace_csv, trip_answers
from warmdraft.answers.expected import OutlookAnswer, expected_answer
from warmdraft.answers.facts import CauseAnswer, FindingAnswer, MarkAnswer, ReadingAnswer
from warmdraft.answers.heat import Costs, HeatAnswer, heat_answer
from warmdraft.answers.job import JobAnswer, job_answer
from warmdraft.answers.layout import plan_answer
from warmdraft.answers.mending import (
    MatchAnswer,
    NeverAnswer,
    WheelAnswer,
    WheelBenchAnswer,
    match_answer,
    never_answer,
    wheel_answer,
    wheel_bench_answer,
)
from warmdraft.answers.proof import ComparisonAnswer, LineAnswer, ProofAnswer
from warmdraft.answers.quantity import Quantity, quantity
from warmdraft.answers.quote import kinds_needed, order_lines, quote_answer
from warmdraft.answers.quote_shapes import QuoteAnswer
from warmdraft.answers.redrawn import RedrawnAnswer, WayOutAnswer, redrawn_answer
from warmdraft.answers.room import (
    ClearanceAnswer,
    MakeupAnswer,
    RiserAnswer,
    RiserAsked,
    clearance_answer,
    makeup_answer,
    riser_answer,
)
from warmdraft.answers.route import CutAnswer, RouteAnswer, cut_answer, route_answer
from warmdraft.answers.seal import SealAnswer, seal_answer
from warmdraft.answers.shopping import Shop, run_kinds
from warmdraft.answers.sound import CurvesAnswer, PartRate, SoundAnswer, rates_answer
from warmdraft.answers.steps import NextAnswer, StepAnswer, next_answer, step_answer
from warmdraft.answers.verdict import DraftLineAnswer, FaultAnswer, HeadlineAnswer, VerdictAnswer, headline_answer
from warmdraft.answers.ways import WaysAnswer, ways_answer
from warmdraft.answers.works import WorkAnswer, WorkLineAnswer, WorksAnswer, work_answer

__all__ = [
    "BalanceAnswer",
    "BenchAnswer",
    "CauseAnswer",
    "ClearanceAnswer",
    "ComparisonAnswer",
    "Costs",
    "CurvesAnswer",
    "CutAnswer",
    "DealtAnswer",
    "DraftLineAnswer",
    "DrawnAnswer",
    "FaultAnswer",
    "FindingAnswer",
    "HeadlineAnswer",
    "HeatAnswer",
    "JobAnswer",
    "LineAnswer",
    "LintAnswer",
    "MakeupAnswer",
    "MarkAnswer",
    "MatchAnswer",
    "NeverAnswer",
    "NextAnswer",
    "OutlookAnswer",
    "PartRate",
    "ProofAnswer",
    "Quantity",
    "QuoteAnswer",
    "ReadingAnswer",
    "RedrawnAnswer",
    "RiserAnswer",
    "RiserAsked",
    "RouteAnswer",
    "SealAnswer",
    "ShapeAnswer",
    "Shop",
    "SoundAnswer",
    "StepAnswer",
    "TripAnswer",
    "VerdictAnswer",
    "WayOutAnswer",
    "WaysAnswer",
    "WheelAnswer",
    "WheelBenchAnswer",
    "WorkAnswer",
    "WorkLineAnswer",
    "WorksAnswer",
    "airway_answer",
    "balance_answer",
    "clearance_answer",
    "cut_answer",
    "diagnose_answer",
    "drawn_answer",
    "dry_answer",
    "expected_answer",
    "headline_answer",
    "heat_answer",
    "job_answer",
    "kinds_needed",
    "lint_answer",
    "makeup_answer",
    "match_answer",
    "meter_answer",
    "never_answer",
    "next_answer",
    "order_lines",
    "plan_answer",
    "prove_answer",
    "quantity",
    "quote_answer",
    "rates_answer",
    "redrawn_answer",
    "riser_answer",
    "route_answer",
    "run_kinds",
    "seal_answer",
    "step_answer",
    "trace_csv",
    "trip_answers",
    "vent_answer",
    "ways_answer",
    "wheel_answer",
    "wheel_bench_answer",
    "whole_answer",
    "work_answer",
]
