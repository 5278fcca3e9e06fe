"""A quantity, as every route gives it."""

from ninja import Schema


class Q(Schema):
    """A quantity."""

    value: float
    unit: str
