"""A machine's layout: one of ours for its variant, or one of the workshop's own."""

from functools import lru_cache
from typing import Any
from uuid import UUID

from machines.models import Machine, OwnLayout
from people.may import Member
from warmdraft.teardown import Layout, choices_of, layout, layout_document, layout_names, layout_of


def own_id(name: str) -> UUID | None:
    """The id of an own layout that a machine's `layout` names; None where it names one of ours, or nothing."""
    try:
        return UUID(name)
    except ValueError:
        return None


def variant_of(machine: Machine) -> frozenset[tuple[str, str]]:
    """In what a machine differs from others of its layout, as the core takes it."""
    said = {"energy": machine.energy, "supply": machine.supply} | (machine.variant or {})
    return frozenset(said.items())


def version_of(machine: Machine) -> int:
    """What has been worked out from a machine's layout holds for this state of it."""
    own = own_id(machine.layout)
    if own is None:
        return 0
    return OwnLayout.objects.filter(id=own, workshop=machine.workshop_id).values_list("version", flat=True).first() or 0


@lru_cache(maxsize=64)
def _own(layout_id: UUID, workshop_id: UUID, version: int) -> Layout | None:
    row = OwnLayout.objects.filter(id=layout_id, workshop=workshop_id).first()
    return layout_of(row.document) if row else None


def layout_of_machine(machine: Machine) -> Layout | None:
    """The way this machine comes apart; None where nobody has said, or nothing is known."""
    own = own_id(machine.layout)
    if own is not None:
        return _own(own, machine.workshop_id, version_of(machine))
    speaks = machine.workshop.speaks
    return layout(machine.layout, variant_of(machine), speaks) if machine.layout in layout_names() else None


def base_document(machine: Machine) -> dict[str, Any] | None:
    """The document of a machine's layout as it is kept, before anything was learned of it."""
    own = own_id(machine.layout)
    if own is not None:
        row = OwnLayout.objects.filter(id=own, workshop=machine.workshop_id).first()
        return row.document if row else None
    speaks = machine.workshop.speaks
    return layout_document(machine.layout, variant_of(machine), speaks) if machine.layout in layout_names() else None


def known_choices(machine: Machine) -> dict[str, str]:
    """What is said of a machine's variant that machines of its layout differ in."""
    known = {choice.name for choice in choices_of(machine.layout)} if machine.layout in layout_names() else set()
    return {name: answer for name, answer in (machine.variant or {}).items() if name in known}


def document_of(who: Member, name: str, variant: frozenset[tuple[str, str]]) -> dict[str, Any] | None:
    """A layout as its document; None where there is none of that name in this workshop."""
    own = own_id(name)
    if own is not None:
        row = OwnLayout.objects.filter(id=own, workshop=who.workshop).first()
        return row.document if row else None
    return layout_document(name, variant, who.workshop.speaks) if name in layout_names() else None


def known_name(who: Member, name: str) -> bool:
    """Whether a machine of this workshop may be said to be of this layout."""
    own = own_id(name)
    if own is not None:
        return OwnLayout.objects.filter(id=own, workshop=who.workshop, removed=False).exists()
    return name in layout_names()


def unknown_choice(name: str, variant: dict[str, str]) -> str | None:
    """The first thing said of a variant that machines of this layout do not differ in; None where all is known."""
    known = {choice.name: choice.answers for choice in choices_of(name)} if name in layout_names() else {}
    return next((what for what, answer in variant.items() if answer not in known.get(what, {})), None)
