"""A job with readings drawn from the model: one machine of its kind, read with ordinary instruments."""

from __future__ import annotations

from typing import Any

import numpy as np

from warmdraft.airway import READING_KINDS, Conditions, predict
from warmdraft.checks import reading_sd
from warmdraft.diagnosis import conditions_of
from warmdraft.diagnosis.settings import ELEMENT_SCATTER
from warmdraft.faults import supposed_state
from warmdraft.jobfile.parts import BOUNDS
from warmdraft.jobfile.read import Job
from warmdraft.jobfile.schema import JobDocument, ReadingSection
from warmdraft.machine import ELEMENTS
from warmdraft.units import UNITS


def simulated_job(job: Job, rng: np.random.Generator) -> JobDocument:
    """The same document with every reading kind the model predicts drawn anew, cold, in canonical units.

    Each element's resistance is scattered as between two machines of a model, each reading as its instrument errs.
    Readings of conditions (supply, room) stay; a draw no file may hold is drawn back to the nearest it may.
    """
    conditions: Conditions = conditions_of(job.case())
    state = supposed_state(job.machine.airway, job.suppose)
    for element, deviation in zip(ELEMENTS, rng.standard_normal(len(ELEMENTS)), strict=True):
        state = state.with_resistance_of(element, float(np.exp(ELEMENT_SCATTER * deviation)))
    predicted = predict(job.machine, state, conditions)[0]
    kept = [part for part in job.document.readings or () if part.kind not in READING_KINDS]
    drawn = []
    for (kind, dimension), value in zip(READING_KINDS.items(), predicted, strict=True):
        noise = rng.standard_normal()
        if not np.isfinite(value):
            continue
        share, absolute = reading_sd(kind, None)
        least, most, _ = BOUNDS[dimension]
        read = float(np.clip(value + (share * abs(value) + absolute) * noise, least, most))
        drawn.append(ReadingSection(kind=kind, value=float(f"{read:.6g}"), unit=UNITS[dimension].canonical))
    return job.document.model_copy(update={"readings": kept + drawn})


def as_document(document: JobDocument) -> dict[str, Any]:
    """A document as the JSON value it is written as: what was left out stays left out."""
    return document.model_dump(mode="json", exclude_none=True)
