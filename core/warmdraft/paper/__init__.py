"""The customer's record as a paper: what was wrong and done in plain words, in the customer's language.

May import work and all below it, and words for how units are written. Imports babel for languages, days and money.
"""

from warmdraft.paper.advice import advice_for
from warmdraft.paper.build import About, Bar, Paper, PaperSection, PaperTable, paper_of
from warmdraft.paper.says import Says, customer_languages, language_for, says_for, source_texts

__all__ = [
    "About",
    "Bar",
    "Paper",
    "PaperSection",
    "PaperTable",
    "Says",
    "advice_for",
    "customer_languages",
    "language_for",
    "paper_of",
    "says_for",
    "source_texts",
]
