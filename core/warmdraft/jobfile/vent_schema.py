"""The shape of `warm-draft/vent`: a run as its pieces, and the code profile it is held against."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from warmdraft.jobfile.limits import Pieces
from warmdraft.jobfile.parts import Flow, Length, Number, Section, Share, Temperature, between, one_of, refused
from warmdraft.vent import ROUGHNESS_M, code_profiles

#: What straight duct is made of, how bends are made, what a run ends with.
MATERIALS, ELBOW_STYLES, HOOD_STYLES = tuple(ROUGHNESS_M), ("mitred", "smooth"), ("flap", "open")


class PieceSection(Section):
    piece: Annotated[str, one_of("a piece", ("straight", "elbow", "flexible", "pinch", "hood"))]
    length: Length | None = None
    material: Annotated[str, one_of("a material", MATERIALS)] | None = None
    angle: Annotated[Number, between(1, 180, "angle in degrees")] | None = None
    style: Annotated[str, one_of("a style", ELBOW_STYLES + HOOD_STYLES)] | None = None
    radius: Length | None = None
    compression: Share | None = None
    open_share: Annotated[Number, between(0.01, 1, "open share")] | None = None
    diameter: Length | None = None

    @model_validator(mode="after")
    def _complete(self) -> Any:
        wanted = {
            "straight": ("length", "material"),
            "elbow": ("angle", "style"),
            "flexible": ("length", "compression"),
            "pinch": ("open_share",),
            "hood": ("style",),
        }
        for key in wanted[self.piece]:
            if getattr(self, key) is None:
                raise refused(f"'{key}' is missing; a piece '{self.piece}' needs it", key)
        styles = {"elbow": ELBOW_STYLES, "hood": HOOD_STYLES}.get(self.piece)
        if styles and self.style not in styles:
            raise refused(f"'{self.style}' is no style of '{self.piece}'; give one of {', '.join(styles)}", "style")
        return self


class FittingSection(Section):
    style: Annotated[str, one_of("a style", ELBOW_STYLES)]
    angle: Annotated[Number, between(1, 180, "angle in degrees")]
    radius: Length | None = None
    takes: Length


class CodeProfileSection(Section):
    """A workshop's own code profile."""

    title: str
    source: str
    max_length: Length
    bore: Length
    fittings: list[FittingSection]


CodeProfileName = Annotated[str, one_of("a code profile", tuple(code_profiles()))]


class VentSection(Section):
    format: Literal["warm-draft/vent"] | None = None
    version: Literal[1] | None = None
    diameter: Length
    flow: Flow | None = None
    air_temperature: Temperature | None = None
    code_profile: CodeProfileSection | CodeProfileName | None = None
    pieces: Annotated[Pieces[PieceSection], Field(min_length=1)]
    lint_layer: Length | None = None


class VentDocument(VentSection):
    """A vent run as a file: `warm-draft/vent`, version 1."""

    format: Literal["warm-draft/vent"]
    version: Literal[1]
    title: str | None = None
    notes: str | None = None
    flow: Flow
