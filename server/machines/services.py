"""What a workshop keeps for all its jobs."""

from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import Http404
from pydantic import ValidationError

from machines.models import CodeProfile, OwnLayout
from machines.queries import MOST_OWN
from people.may import Member
from shared.problems import ApiError
from shared.slots import working
from warmdraft.errors import DocumentError, LayoutError, WarmdraftError
from warmdraft.jobfile import first_wrong, read_layout
from warmdraft.jobfile.limits import check_limits
from warmdraft.jobfile.runs import code_profile_from
from warmdraft.jobfile.vent_schema import CodeProfileSection
from warmdraft.teardown import plan_way, with_codes
from warmdraft.vent import Elbow

#: A profile has to say what these take, or no run with a bend could be held against it.
_BENDS = (45.0, 90.0)
#: A layout whose quickest way is not found in this time is refused: every answer of every job would look for it.
_MOST_SECONDS = 2.0


def keep_code_profile(who: Member, profile_id: UUID, document: dict[str, Any], removed: bool) -> CodeProfile:
    """Keep, change or remove a code profile of the workshop's own. Runs already held against it keep their copy."""
    who.require("keep_code_profiles")
    try:
        check_limits(document)
        profile = code_profile_from(CodeProfileSection.model_validate(document))
        for angle in _BENDS:
            profile.takes_m(Elbow(angle, "mitred", None))
    except ValidationError as error:
        wrong = first_wrong(error)
        path = wrong.path.replace("$", "$.document", 1)
        raise ApiError(422, "not_possible", wrong.message, [{"path": path, "message": wrong.message}]) from None
    except DocumentError as error:
        raise ApiError(422, "not_possible", error.message, [{"path": error.path, "message": error.message}]) from None
    except WarmdraftError as error:
        raise ApiError(422, "not_possible", f"{error}; give what a mitred bend of 45 and of 90 degrees takes") from None
    with transaction.atomic():
        row, _ = CodeProfile.objects.select_for_update().get_or_create(
            id=profile_id, defaults={"workshop": who.workshop, "document": document}
        )
        if row.workshop_id != who.workshop.id:
            raise Http404
        row.document, row.removed = document, removed
        row.save()
        _not_too_many(who, CodeProfile)
    return row


def _not_too_many(who: Member, model: type[CodeProfile] | type[OwnLayout]) -> None:
    if model._default_manager.filter(workshop=who.workshop, removed=False).count() > MOST_OWN:
        raise ApiError(422, "too_many", f"A workshop keeps at most {MOST_OWN} of its own; remove one that is not used.")


def keep_layout(who: Member, layout_id: UUID, document: dict[str, Any], removed: bool) -> OwnLayout:
    """Keep, change or remove a layout of the workshop's own: a graph in which every part can be reached and closed."""
    who.require("keep_layouts")
    try:
        check_limits(document)
        layout = read_layout(document)
        document = with_codes(document)
        if not layout.operations:
            raise DocumentError("$.operations", "is empty; give at least one operation")
        with working:
            # one way to all parts at once: each of them is reached by it, and it can be closed again
            proven = plan_way(layout, layout.parts, seconds=_MOST_SECONDS).optimal if layout.parts else True
        if not proven:
            raise DocumentError(
                "$.operations", "hang together so that no quickest way is found in two seconds; give fewer choices in "
                "'needs', or fewer operations",
            )  # fmt: skip
    except DocumentError as error:
        path = error.path.replace("$", "$.document", 1)
        raise ApiError(422, "not_possible", error.message, [{"path": path, "message": error.message}]) from None
    except LayoutError as error:
        path = f"$.document.operations{error.at}"
        raise ApiError(422, "not_possible", str(error), [{"path": path, "message": str(error)}]) from None
    with transaction.atomic():
        row, made = OwnLayout.objects.select_for_update().get_or_create(
            id=layout_id, defaults={"workshop": who.workshop, "document": document}
        )
        if row.workshop_id != who.workshop.id:
            raise Http404
        if not made and (row.document, row.removed) != (document, removed):
            row.version += 1
        row.document, row.removed = document, removed
        row.save()
        _not_too_many(who, OwnLayout)
    return row
