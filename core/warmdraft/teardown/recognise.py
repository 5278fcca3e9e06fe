"""Which layout is this? A few looks, each chosen by the information it is expected to gain."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from warmdraft.tables import SOURCE_LANGUAGE, table, texts
from warmdraft.teardown.layouts import choices_of, layout_names

#: How often an answer given is right (own assumption): a wrong one must not shut a layout out.
_RIGHT = 0.92
#: A layout this probable is taken for known (own choice).
SURE = 0.9
#: Minutes it takes to read a question and press its answer (own assumption).
_TO_ASK = 0.3
#: The next look has to gain so many bits; below, more looking tells no more (own choice).
_WORTH_BITS = 0.05
#: Once something is answered, a layout less probable than this is out of the question (own choice).
_IN_QUESTION = 0.03


@dataclass(frozen=True, slots=True)
class Question:
    """A look that tells layouts apart: what to ask, the answers by name, how long it takes."""

    name: str
    ask: str
    minutes: float
    answers: Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Recognised:
    """Layouts by probability, the best first; the next question with its bits, None when asking on is not worth it.

    known: the first is sure enough. none_of_them: what was answered fits no layout well. in_question: layouts that what
    was answered does not rule out.
    """

    layouts: tuple[tuple[str, float], ...]
    next: tuple[Question, float] | None
    known: bool
    none_of_them: bool
    in_question: frozenset[str]


def questions(language: str = SOURCE_LANGUAGE) -> dict[str, Question]:
    """All looks in a language, in the data's order.

    >>> list(questions()['screen'].answers)
    ['top', 'door']
    """
    return {
        name: Question(name, row["ask"], row["minutes"], row["answers"])
        for name, row in texts("recognise", language).items()
    }


def variant_seen(layout: str, answers: Mapping[str, str]) -> dict[str, str]:
    """What is known of a layout's choices by what was looked at; answers: by question's name.

    >>> variant_seen('top_screen_rear_duct', {'front_panels': 'two', 'screen': 'top'})
    {'front': 'two'}
    """
    return {
        choice.name: said
        for choice in choices_of(layout)
        if (said := answers.get(choice.seen or "")) is not None and said in choice.answers
    }


def _shows(name: str) -> Mapping[str, Any]:
    shown: Mapping[str, Any] = table(f"layouts/{name}")["recognise"]
    return shown


def _likelihood(layout: str, question: Question, answer: str) -> float:
    fits = _shows(layout)[question.name]
    others = len(question.answers) - len(fits)
    if answer in fits:
        return (_RIGHT if others else 1.0) / len(fits)
    return (1 - _RIGHT) / others


def _entropy(weights: Mapping[str, float]) -> float:
    total = sum(weights.values())
    return -sum(w / total * math.log2(w / total) for w in weights.values() if w > 0)


def recognise(answers: Mapping[str, str], language: str = SOURCE_LANGUAGE) -> Recognised:
    """Layouts after some looks, and the look most worth taking next, by bits a minute.

    answers: by question's name; language: of the question that follows. Every layout is as likely as another before
    anything is looked at.

    Source: Bayes' rule with a right answer in 92 of 100; expected information in bits (Shannon).

    >>> found = recognise({'screen': 'door', 'motors': 'two'})
    >>> found.layouts[0][0]
    'two_motors'
    """
    book = questions(language)
    weights = dict.fromkeys(layout_names(), 1.0)
    for asked, answer in answers.items():
        question = book[asked]
        weights = {name: weight * _likelihood(name, question, answer) for name, weight in weights.items()}
    total = sum(weights.values())
    ranked = tuple(sorted(((name, w / total) for name, w in weights.items()), key=lambda row: -row[1]))
    best = ranked[0][0]
    against = sum(answer not in _shows(best)[asked] for asked, answer in answers.items())
    gains = []
    for question in book.values():
        if question.name in answers:
            continue
        after = 0.0
        for answer in question.answers:
            joint = {name: w * _likelihood(name, question, answer) for name, w in weights.items()}
            after += sum(joint.values()) / total * _entropy(joint)
        gains.append((question, _entropy(weights) - after))
    worth = [row for row in gains if row[1] >= _WORTH_BITS]
    known = ranked[0][1] >= SURE
    following = max(worth, key=lambda row: row[1] / (row[0].minutes + _TO_ASK), default=None)
    left = frozenset(name for name, probability in ranked if not answers or probability >= _IN_QUESTION)
    return Recognised(ranked, None if known else following, known, against >= 2, left)
