"""Layouts as AND/OR graphs, and the steps that reach a part. Stands beside the rest, on units alone."""

from warmdraft.teardown.layouts import Fastener, Layout, Operation, layout, layout_names, layout_titles
from warmdraft.teardown.steps import closing_order, opening_order

__all__ = [
    "Fastener",
    "Layout",
    "Operation",
    "closing_order",
    "layout",
    "layout_names",
    "layout_titles",
    "opening_order",
]
