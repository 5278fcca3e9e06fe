"""JSON Schemas of the formats, generated from the code that validates them."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from warmdraft.jobfile.balance_schema import BalanceDocument
from warmdraft.jobfile.day_schema import DayDocument
from warmdraft.jobfile.layout_schema import LayoutDocument
from warmdraft.jobfile.learning_schema import CountsDocument
from warmdraft.jobfile.mending_schema import MatchDocument, WheelDocument
from warmdraft.jobfile.meter_schema import MeterDocument
from warmdraft.jobfile.parts import Section
from warmdraft.jobfile.route_schema import CutDocument, RouteDocument
from warmdraft.jobfile.schema import JobDocument
from warmdraft.jobfile.upkeep_schema import UpkeepDocument
from warmdraft.jobfile.vent_schema import VentDocument


def _schema(model: type[Section]) -> dict[str, Any]:
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | model.model_json_schema()


#: One by the name of its format.
SCHEMAS: dict[str, Callable[[], dict[str, Any]]] = {
    "job": partial(_schema, JobDocument),
    "vent": partial(_schema, VentDocument),
    "meter": partial(_schema, MeterDocument),
    "layout": partial(_schema, LayoutDocument),
    "balance": partial(_schema, BalanceDocument),
    "wheel": partial(_schema, WheelDocument),
    "part-match": partial(_schema, MatchDocument),
    "route": partial(_schema, RouteDocument),
    "cut": partial(_schema, CutDocument),
    "day": partial(_schema, DayDocument),
    "counts": partial(_schema, CountsDocument),
    "upkeep": partial(_schema, UpkeepDocument),
}
