"""What is shown, as typed values: the answers of the verbs, which are those of the web. On top of jobfile and words.

Each answer is made of dataclasses; the JSON of the command line and of the API, and the API's schemas, follow from
them. They are not frozen: they are written out at once, hundreds an answer, and frozen ones take three times as long.
"""

from warmdraft.answers.airway import airway_answer
from warmdraft.answers.balance import BalanceAnswer, balance_answer
from warmdraft.answers.bench import BenchAnswer
from warmdraft.answers.day import (
    DayAnswer,
    MovedAnswer,
    StopAnswer,
    clock,
    day_answer,
    moves_answer,
    run_answer,
    stop_answer,
)
from warmdraft.answers.dealt import DealtAnswer, LintAnswer, lint_answer
from warmdraft.answers.documents import diagnose_answer, meter_answer, prove_answer, vent_answer, whole_answer
from warmdraft.answers.drawn import DrawnAnswer, ShapeAnswer, drawn_answer
from warmdraft.answers.drill import (
    DrillAnswer,
    FoundAnswer,
    GaveAnswer,
    RungAnswer,
    case_of_past,
    case_of_rung,
    drill_answer,
    drilled_answer,
    gave,
    hidden_in,
    hidden_wrong,
    ladder_answer,
)
from warmdraft.answers.drying import TripAnswer, dry_answer, trace_csv, trip_answers
from warmdraft.answers.expected import OutlookAnswer, expected_answer
from warmdraft.answers.facts import CauseAnswer, FindingAnswer, MarkAnswer, ReadingAnswer
from warmdraft.answers.heat import HeatAnswer, heat_answer
from warmdraft.answers.job import JobAnswer, job_answer
from warmdraft.answers.layout import plan_answer
from warmdraft.answers.learning import LessonsAnswer, counts_of, learn_answer, lessons_answer, together_answer
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
from warmdraft.answers.upkeep import UpkeepAnswer, upkeep_answer, upkeep_document_answer
from warmdraft.answers.verdict import DraftLineAnswer, FaultAnswer, HeadlineAnswer, VerdictAnswer, headline_answer
from warmdraft.answers.ways import WaysAnswer, ways_answer
from warmdraft.answers.works import WorkAnswer, WorkLineAnswer, WorksAnswer, work_answer

__all__ = [
    "BalanceAnswer",
    "BenchAnswer",
    "CauseAnswer",
    "ClearanceAnswer",
    "ComparisonAnswer",
    "CurvesAnswer",
    "CutAnswer",
    "DayAnswer",
    "DealtAnswer",
    "DraftLineAnswer",
    "DrawnAnswer",
    "DrillAnswer",
    "FaultAnswer",
    "FindingAnswer",
    "FoundAnswer",
    "GaveAnswer",
    "HeadlineAnswer",
    "HeatAnswer",
    "JobAnswer",
    "LessonsAnswer",
    "LineAnswer",
    "LintAnswer",
    "MakeupAnswer",
    "MarkAnswer",
    "MatchAnswer",
    "MovedAnswer",
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
    "RungAnswer",
    "SealAnswer",
    "ShapeAnswer",
    "Shop",
    "SoundAnswer",
    "StepAnswer",
    "StopAnswer",
    "TripAnswer",
    "UpkeepAnswer",
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
    "case_of_past",
    "case_of_rung",
    "clearance_answer",
    "clock",
    "counts_of",
    "cut_answer",
    "day_answer",
    "diagnose_answer",
    "drawn_answer",
    "drill_answer",
    "drilled_answer",
    "dry_answer",
    "expected_answer",
    "gave",
    "headline_answer",
    "heat_answer",
    "hidden_in",
    "hidden_wrong",
    "job_answer",
    "kinds_needed",
    "ladder_answer",
    "learn_answer",
    "lessons_answer",
    "lint_answer",
    "makeup_answer",
    "match_answer",
    "meter_answer",
    "moves_answer",
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
    "run_answer",
    "run_kinds",
    "seal_answer",
    "step_answer",
    "stop_answer",
    "together_answer",
    "trace_csv",
    "trip_answers",
    "upkeep_answer",
    "upkeep_document_answer",
    "vent_answer",
    "ways_answer",
    "wheel_answer",
    "wheel_bench_answer",
    "whole_answer",
    "work_answer",
]
