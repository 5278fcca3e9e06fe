"""Who may do what: one table, asked by services, shown as an explanation where something is not offered."""

from dataclasses import dataclass
from uuid import UUID

from django.db.models import F

from people.models import Membership, Person, Role, Workshop
from shared.problems import ApiError
from warmdraft.tables import texts

_ALL = frozenset({Role.TRAINEE, Role.TECHNICIAN, Role.LEAD})
_SKILLED = frozenset({Role.TECHNICIAN, Role.LEAD})
_LEADS = frozenset({Role.LEAD})


@dataclass(frozen=True, slots=True)
class Rule:
    """One row: the roles that may, and whom to ask who may not."""

    roles: frozenset[str]
    ask: str = "technician"


#: Acts about the workshop itself: none of them is done from the room for drills beside it.
_OF_THE_WORKSHOP = frozenset({
    "keep_the_catalogue", "plan_the_day", "invite", "change_a_role", "keep_the_workshop", "export_a_person",
    "set_drills",
})  # fmt: skip

#: The table: act -> rule; its words are the core's. Work that needs a qualification needs it of every role.
RULES: dict[str, Rule] = {
    "work_on_a_job": Rule(_ALL),
    "propose_a_cause": Rule(_ALL),
    "confirm_a_cause": Rule(_SKILLED),
    "hand_over": Rule(_SKILLED),
    "import_a_job": Rule(_SKILLED),
    "keep_code_profiles": Rule(_SKILLED),
    "keep_layouts": Rule(_SKILLED),
    "keep_the_catalogue": Rule(_SKILLED),
    "plan_the_day": Rule(_SKILLED),
    "override": Rule(_LEADS, "lead"),
    "see_people": Rule(_ALL),
    "invite": Rule(_LEADS, "lead"),
    "change_a_role": Rule(_LEADS, "lead"),
    "keep_the_workshop": Rule(_LEADS, "lead"),
    "export_a_person": Rule(_LEADS, "lead"),
    "set_drills": Rule(_LEADS, "lead"),
}


@dataclass(frozen=True, slots=True)
class Member:
    """The signed-in person in their workshop: what every query starts from."""

    person: Person
    workshop: Workshop
    role: str
    qualifications: frozenset[str]
    #: The device a request came from, where the client says.
    device: UUID | None = None

    def may(self, act: str) -> bool:
        """Whether the role allows an act, and where they are."""
        return self.role in RULES[act].roles and not self._only_outside(act)

    def _only_outside(self, act: str) -> bool:
        return self.workshop.practice_of_id is not None and act in _OF_THE_WORKSHOP

    def why_not(self, act: str) -> str:
        """What to tell someone whose role does not allow an act."""
        words = texts("people", self.workshop.speaks)
        if self._only_outside(act):
            return str(words["sentence"]["not_in_a_drill"])
        said = {"role": words["role"][self.role], "act": words["act"][act], "whom": words["ask"][RULES[act].ask]}
        return str(words["sentence"]["not_allowed"]).format(**said)

    def require(self, act: str) -> None:
        """Raise the explanation when the role may not."""
        if not self.may(act):
            raise ApiError(403, "not_allowed", self.why_not(act))

    def require_qualified(self, kind: str | None) -> None:
        """Raise the explanation when the work asks for a qualification this person does not have."""
        if kind is not None and kind not in self.qualifications:
            words = texts("people", self.workshop.speaks)
            raise ApiError(
                403, "not_qualified", str(words["sentence"]["not_qualified"]).format(work=words["work"][kind])
            )


def member(person: Person, device: UUID | None = None, workshop: UUID | None = None) -> Member:
    """The person in one of their workshops: the one that is named, else the one chosen last, else the first joined.

    Nobody without a membership sees any row. Raises the problem where a workshop is named that they do not belong to.
    """
    mine = Membership.objects.select_related("workshop").filter(person=person)
    if workshop:
        row = mine.filter(workshop=workshop).first()
        if row is None:
            raise ApiError(
                403, "not_in_workshop", "You don't belong to this workshop any more; choose another of yours."
            )
    else:
        row = mine.order_by(F("chosen_at").desc(nulls_last=True), "id").first()
    if row is None:
        raise ApiError(403, "no_workshop", "You belong to no workshop yet; ask its lead to add you.")
    return Member(person, row.workshop, row.role, frozenset(row.qualifications), device)
