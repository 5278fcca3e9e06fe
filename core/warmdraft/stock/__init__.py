"""Parts as things that are bought: a catalogue as CSV, what to bring, what to order, a quote, what pays over the years.

May import mending, units, tables, errors, text. Imports numpy and the standard library.
"""

from warmdraft.stock.bring import Brought, MayNeed, Packing, what_to_bring
from warmdraft.stock.buy import MOST_PARTS, Bought, Order, cheapest, current
from warmdraft.stock.item import Item, Offer, key_of
from warmdraft.stock.money import Figures, Priced, Quote, QuoteLine, Rounds, TaxedOn, quoted
from warmdraft.stock.sheet import COLUMNS, SheetError, Trouble, read_sheet, sheet_of
from warmdraft.stock.worth import YEARS, Choice, Way, compared, fitted_cost, pair_pays

__all__ = [
    "COLUMNS", "MOST_PARTS", "YEARS", "Bought", "Brought", "Choice", "Figures", "Item", "MayNeed", "Offer", "Order",
    "Packing", "Priced", "Quote", "QuoteLine", "Rounds", "SheetError", "TaxedOn", "Trouble", "Way", "cheapest",
    "compared", "current", "fitted_cost", "key_of", "pair_pays", "quoted", "read_sheet", "sheet_of", "what_to_bring",
]  # fmt: skip
