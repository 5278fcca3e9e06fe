"""How much a workshop may keep, of pictures and recordings together."""

from django.conf import settings
from django.db.models import Exists, ManyToOneRel, Model, OuterRef, Sum

from files.models import Picture, Recording
from people.may import Member
from shared.problems import ApiError


def require_room(who: Member, size: int) -> None:
    """Raise the problem of a workshop that would keep more than it may."""
    used = sum(_in_use(who, model) for model in (Picture, Recording))
    if used + size > settings.QUOTA_BYTES:
        raise ApiError(
            413, "quota_full", f"The workshop keeps {used / 1e6:.0f} MB of photos and recordings; "
            f"{settings.QUOTA_BYTES / 1e6:.0f} MB are the most. Take away what is no longer needed, or ask who runs "
            "the server for more.",
        )  # fmt: skip


def _in_use(who: Member, model: type[Model]) -> int:
    """Bytes that some fact still shows; one that was taken away makes room at once."""
    shown = [
        Exists(relation.related_model._default_manager.filter(**{relation.field.name: OuterRef("pk")}, withdrawn=False))
        for relation in model._meta.get_fields(include_hidden=True)
        if isinstance(relation, ManyToOneRel)
    ]
    rows = model._default_manager.filter(workshop=who.workshop).filter(*shown)
    return rows.aggregate(total=Sum("size"))["total"] or 0
