"""From the pieces of a document to a vent run."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from warmdraft.jobfile.vent_schema import CodeProfileSection, PieceSection, VentSection
from warmdraft.vent import (
    DEFAULT_CODE_PROFILE,
    CodeProfile,
    Elbow,
    FittingAllowance,
    Flexible,
    Hood,
    Piece,
    Pinch,
    Straight,
    VentRun,
    code_profiles,
)


def _piece(part: PieceSection) -> Piece:
    length = part.length.si("length") if part.length else 0.0
    match part.piece:
        case "straight":
            return Straight(length, part.material or "")
        case "elbow":
            return Elbow(part.angle or 0.0, part.style or "", part.radius.si("length") if part.radius else None)
        case "flexible":
            return Flexible(length, part.compression or 0.0)
        case "pinch":
            return Pinch(part.open_share or 1.0)
        case _:
            return Hood(part.style or "")


def piece_document(piece: Piece) -> dict[str, Any]:
    """A piece as `warm-draft/vent` takes it, lengths in metres.

    >>> piece_document(Straight(1.5, "smooth"))
    {'piece': 'straight', 'length': {'value': 1.5, 'unit': 'm'}, 'material': 'smooth'}
    """
    match piece:
        case Straight(length, material):
            return {"piece": "straight", "length": _metres(length), "material": material}
        case Flexible(length, compression):
            return {"piece": "flexible", "length": _metres(length), "compression": compression}
        case Elbow(angle, style, radius):
            bend = {"piece": "elbow", "angle": angle, "style": style}
            return bend if radius is None else bend | {"radius": _metres(radius)}
        case Pinch(open_share):
            return {"piece": "pinch", "open_share": open_share}
        case Hood(style):
            return {"piece": "hood", "style": style}


def _metres(length_m: float) -> dict[str, Any]:
    return {"value": length_m, "unit": "m"}


def run_of(part: VentSection) -> VentRun:
    """The run of a document. Raises VentError where no run can be so."""
    return VentRun(
        bore_m=part.diameter.si("length"),
        pieces=tuple(_piece(piece) for piece in part.pieces),
        lint_layer_m=part.lint_layer.si("length") if part.lint_layer else 0.0,
        own_bores_m=tuple(piece.diameter.si("length") if piece.diameter else None for piece in part.pieces),
    )


def code_profile_from(part: CodeProfileSection) -> CodeProfile:
    """A workshop's own code profile; what a run's length is not about is as in the default one."""
    return replace(
        code_profiles()[DEFAULT_CODE_PROFILE], name="own", title=part.title, source=part.source,
        max_length_m=part.max_length.si("length"), bore_m=part.bore.si("length"),
        fittings=tuple(
            FittingAllowance(f.style, f.radius.si("length") if f.radius else 0.0, f.angle, f.takes.si("length"))
            for f in part.fittings
        ),
    )  # fmt: skip


def code_profile_of(part: VentSection) -> CodeProfile:
    """The code profile a document names, or brings along."""
    return profile_named(part.code_profile)


def profile_named(given: CodeProfileSection | str | None) -> CodeProfile:
    """A code profile by its name, or as it was brought along; the default where nobody says."""
    if isinstance(given, CodeProfileSection):
        return code_profile_from(given)
    return code_profiles()[given or DEFAULT_CODE_PROFILE]
