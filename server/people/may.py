"""Who may do what: one table, asked by services, shown as an explanation where something is not offered."""

from dataclasses import dataclass
from uuid import UUID

from config.problems import Problem
from people.models import Membership, Person, Role, Workshop

#: act -> roles that may do it.
MAY: dict[str, frozenset[str]] = {
    "work_on_a_job": frozenset({Role.TRAINEE, Role.TECHNICIAN, Role.LEAD}),
    "import_a_job": frozenset({Role.TECHNICIAN, Role.LEAD}),
    "confirm_a_cause": frozenset({Role.TECHNICIAN, Role.LEAD}),
    "hand_over": frozenset({Role.TECHNICIAN, Role.LEAD}),
    "keep_code_profiles": frozenset({Role.TECHNICIAN, Role.LEAD}),
}
_ACTS = {
    "work_on_a_job": "work on a job",
    "import_a_job": "bring a job in from a file",
    "confirm_a_cause": "confirm a cause",
    "hand_over": "hand a job over",
    "keep_code_profiles": "keep code profiles for the workshop",
}
QUALIFIED = {"live": "live work", "gas": "gas work"}


@dataclass(frozen=True, slots=True)
class Member:
    """The signed-in person in their workshop: what every query starts from."""

    person: Person
    workshop: Workshop
    role: str
    qualifications: frozenset[str]
    #: The device a request came from, where the client says.
    device: UUID | None = None

    def require(self, act: str) -> None:
        """Raise the explanation when the role may not."""
        if self.role not in MAY[act]:
            raise Problem(
                403, "not_allowed", f"As {self.role} you can't {_ACTS[act]}; ask a technician of the workshop."
            )

    def require_qualified(self, kind: str | None) -> None:
        """Raise the explanation when the work asks for a qualification this person does not have."""
        if kind is not None and kind not in self.qualifications:
            raise Problem(
                403,
                "not_qualified",
                f"This is {QUALIFIED[kind]}; only someone qualified for it records it. Say that you can't do it here.",
            )


def member(person: Person, device: UUID | None = None) -> Member:
    """The person's membership. Nobody without one sees any row."""
    membership = (
        Membership.objects.select_related("workshop").filter(person=person).order_by("workshop__name", "id").first()
    )
    if membership is None:
        raise Problem(403, "no_workshop", "You belong to no workshop yet; ask its lead to add you.")
    kinds = frozenset(person.qualifications.values_list("kind", flat=True))
    return Member(person, membership.workshop, membership.role, kinds, device)
