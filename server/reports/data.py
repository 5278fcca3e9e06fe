"""A record as plain data, for whoever wants it in a program of their own."""

import json
from typing import Any, Literal

from reports.models import Record
from warmdraft.stock import csv_lines

#: Columns of what was measured; a row a kind of reading.
_COLUMNS = ("kind", "heat_on", "before", "after", "healthy", "unit", "says")


def as_data(record: Record, form: Literal["json", "csv"]) -> tuple[str, str]:
    """The record as text, and its media type: all of it as JSON, or what was measured as CSV."""
    if form == "json":
        whole = {
            "format": "warm-draft/record", "version": 1, "id": str(record.id), "job": str(record.job_id),
            "edition": record.edition, "at": record.at.isoformat(), "by": record.by.name, "note": record.note,
            "sha256": record.sha256, "model_version": record.model_version, "snapshot": record.snapshot,
        }  # fmt: skip
        return json.dumps(whole, ensure_ascii=False, indent=1), "application/json; charset=utf-8"
    return "".join(csv_lines([_COLUMNS, *map(_measured, record.snapshot["proof"]["rows"])])), "text/csv; charset=utf-8"


def _measured(row: dict[str, Any]) -> list[str | float]:
    """One row of what was measured, in the order of its columns."""
    values = [row[key]["value"] if row[key] else "" for key in ("before", "after", "healthy")]
    return [row["kind"], row["heat_on"], *values, row["healthy"]["unit"], str(row.get("text", ""))]
