"""Parts as things that are bought: a catalogue as CSV, what to bring, what to order, a quote, what pays over the years.

May import mending, units, tables, errors, text. Imports numpy, the standard library and, for cut, a solver.
"""

from warmdraft.stock.bring import Brought, MayNeed, Packing, what_to_bring
from warmdraft.stock.buy import MOST_PARTS, Bought, Order, cheapest, current
from warmdraft.stock.cut import Bar, Cuts, Stock, cut_list
from warmdraft.stock.item import Item, Offer, document_of, item_of, key_of
from warmdraft.stock.marks import MARKED, marks_typed
from warmdraft.stock.money import Figures, Priced, Quote, QuoteLine, Rounds, TaxedOn, quoted
from warmdraft.stock.sheet import COLUMNS, MOST_BYTES, SheetError, Trouble, csv_lines, read_sheet, sheet_of
from warmdraft.stock.worth import ALIKE_SHARE, YEARS, Choice, Way, compared, fitted_cost, pair_pays

__all__ = [
    "ALIKE_SHARE", "COLUMNS", "MARKED", "MOST_BYTES", "MOST_PARTS", "YEARS", "Bar", "Bought", "Brought", "Choice",
    "Cuts", "Figures", "Item", "MayNeed", "Offer", "Order", "Packing", "Priced", "Quote", "QuoteLine", "Rounds",
    "SheetError", "Stock", "TaxedOn", "Trouble", "Way", "cheapest", "compared", "csv_lines", "current", "cut_list",
    "document_of", "fitted_cost", "item_of", "key_of", "marks_typed", "pair_pays", "quoted", "read_sheet", "sheet_of",
    "what_to_bring",
]  # fmt: skip
