"""Which rows are a workshop's: all there are, by model, and how to come from each to its workshop.

A model of ours that stands in none of these is a mistake that a test finds: what is forgotten here would stay behind.
"""

from typing import Any

from django.apps import apps
from django.db.models import Model, QuerySet

from people.models import Attempt, Person, Sitting, Workshop
from whole.models import KeptRecord, Leaving, Receipt

#: Apps whose rows are a workshop's.
APPS = ("people", "files", "machines", "jobs", "stock", "upkeep", "reports", "day", "drills")
#: From models that do not name their workshop themselves.
_BY_WAY_OF = {
    "jobs.Presence": "job__workshop",
    "upkeep.Reminder": "machine__workshop",
    "reports.Print": "record__workshop",
}
#: Of people, not of a workshop; the workshops themselves; what is left when one is gone.
OUTSIDE: tuple[type[Model], ...] = (Person, Sitting, Attempt, Workshop, Leaving, Receipt, KeptRecord)
#: Not taken out. Addresses that open something without signing in are given anew where it goes; what lists say, who is
#: looking, and words that are found follow from the rest; drills stay in their room.
LEFT_BEHIND = frozenset({
    "people.Membership", "people.Invitation", "upkeep.Feed", "reports.Link", "jobs.Summary", "jobs.Word",
    "jobs.Presence", "drills.Drill",
})  # fmt: skip


def models_of_workshops() -> list[type[Model]]:
    """Every model whose rows are a workshop's."""
    found = [model for name in APPS for model in apps.get_app_config(name).get_models()]
    return [model for model in found if model not in OUTSIDE]


def way_to_workshop(model: type[Model]) -> str:
    """The lookup from a row to its workshop."""
    return _BY_WAY_OF.get(model._meta.label, "workshop")


def rows_of(model: type[Model], workshop: Any) -> QuerySet[Any]:
    """A workshop's rows of a model, in the order they were made."""
    return model._default_manager.filter(**{way_to_workshop(model): workshop}).order_by("pk")


def taken_out() -> list[type[Model]]:
    """The models that go out with a workshop, what is named before what names it."""
    models = [model for model in models_of_workshops() if model._meta.label not in LEFT_BEHIND]
    ordered: list[type[Model]] = []
    while models:
        ready = [model for model in models if not _names(model) & (set(models) - {model})]
        ordered += ready
        models = [model for model in models if model not in ready]
    return ordered


def _names(model: type[Model]) -> set[Any]:
    return {field.related_model for field in model._meta.concrete_fields if field.is_relation}
