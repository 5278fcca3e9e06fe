"""The open file formats: read, validate, write; and the answers of the verbs as documents.

On top of everything else in the core. Only here is pydantic used.
"""

from warmdraft.jobfile.answers import airway_answer, diagnose_answer, dry_answer, trace_csv
from warmdraft.jobfile.layout_answers import plan_answer
from warmdraft.jobfile.layout_schema import read_layout, read_layout_document
from warmdraft.jobfile.other_answers import meter_answer, vent_answer
from warmdraft.jobfile.parse import parse_json
from warmdraft.jobfile.read import Job, read_job, read_job_document
from warmdraft.jobfile.schema import JobDocument
from warmdraft.jobfile.schemas import SCHEMAS
from warmdraft.jobfile.simulate import simulated_job

__all__ = [
    "SCHEMAS",
    "Job",
    "JobDocument",
    "airway_answer",
    "diagnose_answer",
    "dry_answer",
    "meter_answer",
    "parse_json",
    "plan_answer",
    "read_job",
    "read_job_document",
    "read_layout",
    "read_layout_document",
    "simulated_job",
    "trace_csv",
    "vent_answer",
]
