"""The names of steps: `STAGE.NAME`, and nothing else about them is to be cut out of a name anywhere.

    complaint.stopped      what a complaint asks to read first was read
    make_safe.NAME         an act of the safety table
    open.OPERATION         an operation of the layout taken off
    mend.STEP              a step of an act of the acts table
    line.PART.ACT          a line of works: what was decided of it
    close.OPERATION        an operation put back
    close.NAME             what is done before a machine is closed, of the closing table
    surprise.WORDS         what came off and stands in no layout, named by whoever met it

Marks name a step; counts name the step at which a thing came off (`open.`, `surprise.`), or none (NOWHERE).
"""

from __future__ import annotations

#: The step of a thing that belongs to no operation: tools, a screw nobody knows a place for.
NOWHERE = ""
SURPRISE = "surprise"
LINE = "line"
#: As names began before there was a stage for them.
_SURPRISE_OF_OLD = "open.surprise: "


def step_of(stage: str, name: str) -> str:
    """The name of a step.

    >>> step_of('open', 'blower_wheel')
    'open.blower_wheel'
    """
    return f"{stage}.{name}"


def stage_and_name(step: str) -> tuple[str, str]:
    """The stage of a step and its name there.

    >>> stage_and_name("open.blower_wheel")
    ('open', 'blower_wheel')
    """
    stage, _, name = step.partition(".")
    return stage, name


def name_at(stage: str, step: str) -> str | None:
    """The name of a step of this stage; None where it is a step of another.

    >>> name_at('open', 'open.drum'), name_at('close', 'open.drum')
    ('drum', None)
    """
    found, name = stage_and_name(step)
    return name if found == stage else None


def modern_step(step: str) -> str:
    """A step's name as it is written today, whenever it was written.

    >>> modern_step("open.surprise: tape over the screws")
    'surprise.tape over the screws'
    """
    return step_of(SURPRISE, step.removeprefix(_SURPRISE_OF_OLD)) if step.startswith(_SURPRISE_OF_OLD) else step
