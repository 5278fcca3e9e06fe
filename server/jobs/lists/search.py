"""Finding jobs in the database: by words as people type them, begun or mistyped, and by what the trade calls the same.

Bounded however many jobs there are: the latest ones are looked through in order; a word that is rare among them is rare
among all, and then the index has few rows to give.
"""

from collections.abc import Sequence
from typing import Any

from django.db import connection

from people.may import Member
from warmdraft.words import search_terms

#: The latest jobs that are looked through in order before the index is asked.
LOOKED_THROUGH = 1_000
#: Likeness (of trigrams) from which a mistyped word is taken for one there is. PostgreSQL's own, which the index goes
#: by, is 0.3, for whole texts; this one is an own assumption.
ALIKE = 0.4
#: Words a mistyped one may stand for.
MOST_ALIKE = 4
#: Rows of the index that are put in order at most.
MOST_FOUND = 2_000

_QUERY = "to_tsquery('simple', %(simple)s) || to_tsquery('english', %(english)s)"
_LATEST = f"""
SELECT job_id FROM (
    SELECT job_id, booked_for, search FROM jobs_summary
    WHERE workshop_id = %(workshop)s AND (booked_for, job_id) < (%(before)s, %(before_id)s)
    ORDER BY booked_for DESC, job_id DESC LIMIT %(looked_through)s
) latest WHERE search @@ ({_QUERY}) ORDER BY booked_for DESC, job_id DESC LIMIT %(most)s
"""  # noqa: S608 - put together from our own words
_ALL = f"""
SELECT job_id FROM (
    SELECT job_id, booked_for FROM jobs_summary
    WHERE workshop_id = %(workshop)s AND search @@ ({_QUERY}) LIMIT %(most_found)s
) found WHERE (booked_for, job_id) < (%(before)s, %(before_id)s) ORDER BY booked_for DESC, job_id DESC LIMIT %(most)s
"""  # noqa: S608 - the same
_LIKE = """
SELECT word FROM jobs_word WHERE workshop_id = %(workshop)s AND word %% %(word)s
    AND similarity(word, %(word)s) >= %(alike)s
ORDER BY similarity(word, %(word)s) DESC LIMIT %(most)s
"""


def tsquery(terms: Sequence[Sequence[str]]) -> str:
    """Each word, or what stands for it, and each of them begun only."""

    def one(term: str) -> str:
        return "(" + " & ".join(f"{word}:*" for word in term.split()) + ")"

    return " & ".join("(" + " | ".join(one(term) for term in any_of) + ")" for any_of in terms)


def _found(cursor: Any, who: Member, terms: list[list[str]], before: tuple[Any, Any], most: int) -> list[Any]:
    query = tsquery(terms)
    asked = {"workshop": who.workshop.id, "simple": query, "english": query, "before": before[0],
             "before_id": before[1], "looked_through": LOOKED_THROUGH, "most": most,
             "most_found": MOST_FOUND}  # fmt: skip
    cursor.execute(_LATEST, asked)
    rows = cursor.fetchall()
    if len(rows) < most:
        cursor.execute(_ALL, asked)
        rows = cursor.fetchall()
    return [row[0] for row in rows]


def found(who: Member, typed: str, before: tuple[Any, Any], most: int) -> list[Any]:
    """Ids of jobs that say all these words, the latest first; where none does, words that are like them are tried."""
    terms = search_terms(typed)
    if not terms:
        return []
    with connection.cursor() as cursor:
        ids = _found(cursor, who, terms, before, most)
        if ids:
            return ids
        liked = [[*any_of, *_alike(cursor, who, any_of[0])] for any_of in terms]
        return _found(cursor, who, liked, before, most) if liked != terms else []


def _alike(cursor: Any, who: Member, word: str) -> list[str]:
    cursor.execute(_LIKE, {"workshop": who.workshop.id, "word": word, "alike": ALIKE, "most": MOST_ALIKE})
    return [row[0] for row in cursor.fetchall()]
