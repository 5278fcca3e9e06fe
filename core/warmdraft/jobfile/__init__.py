"""The open file formats: read, validate, upgrade, write; and a document's facts as plain values.

Only here, and in what is shown of documents, is pydantic used.
"""

from warmdraft.jobfile.facts import drawn_run
from warmdraft.jobfile.layout_read import read_layout, read_layout_document
from warmdraft.jobfile.parse import parse_json
from warmdraft.jobfile.read import Job, read_job, read_job_document
from warmdraft.jobfile.schema import JobDocument
from warmdraft.jobfile.schemas import SCHEMAS
from warmdraft.jobfile.simulate import simulated_job
from warmdraft.jobfile.strict import first_wrong
from warmdraft.jobfile.upgrade import upgraded

__all__ = [
    "SCHEMAS",
    "Job",
    "JobDocument",
    "drawn_run",
    "first_wrong",
    "parse_json",
    "read_job",
    "read_job_document",
    "read_layout",
    "read_layout_document",
    "simulated_job",
    "upgraded",
]
