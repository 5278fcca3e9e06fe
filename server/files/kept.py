"""What is kept by its content: once, of this workshop, and no more than it may."""

import hashlib
from typing import Any, TypeVar

from django.conf import settings
from django.db import transaction
from django.db.models import Exists, ManyToOneRel, OuterRef, Sum
from django.db.models.signals import post_delete
from django.dispatch import receiver
from django.http import Http404

from files import objects
from files.models import Content, Picture, Recording
from people.may import Member
from shared.problems import ApiError

_Kept = TypeVar("_Kept", bound=Content)


def keep_once(who: Member, model: type[_Kept], data: bytes, **columns: Any) -> _Kept:
    """Keep this for the workshop; the one that is there already where it is the same. Raises ApiError."""
    sha256 = hashlib.sha256(data).hexdigest()
    known = model._default_manager.defer("data").filter(workshop=who.workshop, sha256=sha256).first()
    if known is not None:
        return known
    _require_room(who, len(data))
    row = model(workshop=who.workshop, sha256=sha256, data=data, size=len(data), **columns)
    if objects.store() is not None:  # there before a row says so
        objects.put(row.key, data)
        row.data = None
    defaults = {"data": row.data, "size": row.size, **columns}
    kept, _ = model._default_manager.get_or_create(workshop=who.workshop, sha256=sha256, defaults=defaults)
    return kept


def moved(model: type[_Kept], most: int) -> int:
    """Carry rows that lie in the database over to the store of objects; how many."""
    rows = list(model._default_manager.filter(data__isnull=False)[:most])
    for row in rows:
        objects.put(row.key, row.content())
        model._default_manager.filter(pk=row.pk).update(data=None)
    return len(rows)


@receiver(post_delete, sender=Picture)
@receiver(post_delete, sender=Recording)
def _let_go(sender: type[Content], instance: Content, **_: Any) -> None:
    """An object goes when its row has gone for good."""
    if "data" not in instance.get_deferred_fields() and instance.data is not None:
        return
    if objects.store() is not None:
        transaction.on_commit(lambda: objects.delete(instance.key), robust=True)


def kept_of(who: Member, model: type[_Kept], sha256: str) -> _Kept:
    """One of the workshop, or 404."""
    kept = model._default_manager.filter(workshop=who.workshop, sha256=sha256).first()
    if kept is None:
        raise Http404
    return kept


def _require_room(who: Member, size: int) -> None:
    """Raise the problem of a workshop that would keep more than it may."""
    used = sum(_in_use(who, model) for model in (Picture, Recording))
    if used + size > settings.QUOTA_BYTES:
        raise ApiError(
            413, "quota_full", f"The workshop keeps {used / 1e6:.0f} MB of photos and recordings; "
            f"{settings.QUOTA_BYTES / 1e6:.0f} MB are the most. Take away what is no longer needed, or ask who runs "
            "the server for more.",
        )  # fmt: skip


def _in_use(who: Member, model: type[Content]) -> int:
    """Bytes that some fact still shows; one that was taken away makes room at once."""
    shown = [
        Exists(relation.related_model._default_manager.filter(**{relation.field.name: OuterRef("pk")}, withdrawn=False))
        for relation in model._meta.get_fields(include_hidden=True)
        if isinstance(relation, ManyToOneRel)
    ]
    rows = model._default_manager.filter(workshop=who.workshop).filter(*shown)
    return rows.aggregate(total=Sum("size"))["total"] or 0
