"""Parts and what the customer agreed to, as they stand in a job's file."""

from __future__ import annotations

import re
from decimal import Decimal
from typing import Annotated, Any, get_args

from pydantic import BeforeValidator, Field, model_validator

from warmdraft.jobfile.limits import no_more_than
from warmdraft.jobfile.mending_schema import KINDS, PartSection
from warmdraft.jobfile.parts import FactSection, between, one_of, refused
from warmdraft.jobfile.parts import Number as Decimals
from warmdraft.repair import GRADES, acts, lint_fault
from warmdraft.work.recorded import PartState

#: A signature, characters of its path; lines of an agreement.
MOST_SIGNATURE, MOST_LINES = 20_000, 200
_SUM = re.compile(r"\d{1,9}(\.\d{1,4})?")
#: A signature: moves and lines between whole places of a field of 600 by 200: nothing else is drawn by a finger.
SIGNATURE = re.compile(r"(M\d{1,3} \d{1,3}( L\d{1,3} \d{1,3})* ?)+")


def _sum(value: Any) -> Any:
    if isinstance(value, Decimal):
        value = str(value)
    if not (isinstance(value, str) and _SUM.fullmatch(value)):
        raise refused(f'{value!r:.40} is no sum; give it as a text with a decimal point, such as "12.50"')
    return Decimal(value)


Money = Annotated[Decimal, BeforeValidator(_sum)]
Number = Annotated[str, Field(max_length=60)]


class OldPartSection(FactSection):
    """A part of the machine by its marks, as they were read off it."""

    marks: PartSection


class PartSaidSection(FactSection):
    """What became of a part of a kind that was meant for this job."""

    part: Annotated[str, one_of("a part", KINDS)]
    state: Annotated[str, one_of("a state of a part", get_args(PartState))]
    number: Number | None = None
    count: Annotated[int, between(1, 999, "number of parts")] | None = None
    price: Money | None = None
    store: Number | None = None


class LintSection(FactSection):
    """What was found where something was cleaned: how much lint on the scale, or weighed, and what else."""

    act: str
    grade: Annotated[int, between(0, GRADES - 1, "grade")] | None = None
    grams: Annotated[Decimals, between(0, 20_000, "mass, g")] | None = None
    objects: Annotated[str, Field(max_length=200)] | None = None

    @model_validator(mode="after")
    def _takes_lint_away(self) -> Any:
        act = acts().get(self.act)
        if act is None or lint_fault(act) is None:
            wanted = ", ".join(name for name, row in acts().items() if lint_fault(row))
            raise refused(f"'{self.act}' takes no lint away; give one of {wanted}", "act")
        return self


class AgreementSection(FactSection):
    """What the customer agreed to: acts, for a sum; signed, or said to whoever wrote it down."""

    lines: Annotated[list[str], no_more_than(MOST_LINES, "lines")]
    total: Money
    currency: Annotated[str, Field(pattern="^[A-Z]{3}$")]
    name: Annotated[str, Field(max_length=120)] | None = None
    signature: Annotated[str, Field(max_length=MOST_SIGNATURE)] | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        for i, line in enumerate(self.lines):
            if line not in acts():
                raise refused(f"'{line}' is no line of works; give PART.ACT of an act that there is", f"lines[{i}]")
        if self.signature and not SIGNATURE.fullmatch(self.signature):
            raise refused("is no path; give moves and lines as in M10 20 L30 40, within 600 by 200", "signature")
        return self
