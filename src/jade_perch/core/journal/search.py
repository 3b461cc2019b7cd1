"""What is typed into the journal's search, as the index is asked for it."""

import re
from typing import Annotated

from jade_perch.core.evening.journal import Outcome
from jade_perch.core.fields import Day, Frozen, Label, Text
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.targets import TargetKind

MOST_WORDS = 12  # of a search; more narrow nothing further
LONGEST_NAME = 4  # words of an object's name that are tried together
MOST_CHARS = 200
WORD = re.compile(r"[^\W_]+")


class Wanted(Frozen):
    """What of the journal is asked for: words, and what has to be so; nothing asks for all of it.

    ``text`` holds words that are looked for everywhere, each also as the beginning of one;
    dates are those of evenings.
    """

    text: Annotated[str, Text(MOST_CHARS, cure="A few words are enough.")] = ""
    kind: TargetKind | None = None
    outcome: Outcome | None = None
    telescope: Label | None = None
    since: Day | None = None
    until: Day | None = None


def match_of(text: str, catalogue: Catalogue) -> str | None:
    """Return the index's question for words as typed, or None where there is no word in them.

    Every word has to be met, by itself or by one it begins.  Words that together name a target
    are also met by whatever was noted of it under another of its names.

    Source: rules.md#journal-search.
    """
    words = [word.casefold() for word in WORD.findall(text)][:MOST_WORDS]
    clauses = []
    at = 0
    while at < len(words):
        size, key = _named(words, at, catalogue)
        asked = " AND ".join(f'"{word}" *' for word in words[at : at + size])
        named = "" if key is None else f' OR target_key : "{" ".join(WORD.findall(key))}"'
        clauses.append(f"(({asked}){named})")
        at += size
    return " AND ".join(clauses) or None


def _named(words: list[str], at: int, catalogue: Catalogue) -> tuple[int, str | None]:
    """Return how many words from a place on name a target, and its key; one and None for none."""
    for size in range(min(LONGEST_NAME, len(words) - at), 0, -1):
        row = catalogue.row_of(" ".join(words[at : at + size]))
        if row is not None:
            return size, catalogue.keys[row]
    return 1, None


def keys_of_kind(kind: str, keys: list[str], catalogue: Catalogue) -> list[str]:
    """Return those of some targets that are of a kind.  Source: the catalogue's kinds."""
    rows = {key: catalogue.row_of(key) for key in keys}
    return [key for key, row in rows.items() if row is not None and catalogue.kinds[row] == kind]
