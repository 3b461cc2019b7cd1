"""What in a typed text keeps it from being a number."""

import re
import unicodedata

NUMBER = re.compile(r"\s*[-+−–]?\s*\d*(?:[.,]\d*)?(?:[eE][-+]?\d+)?\s*")
PART = re.compile(r"[.,]\d")
WORD = re.compile(r"[^\W\d_]+")
# what cannot be seen is named instead
INVISIBLE = ("Cc", "Cf", "Cn", "Co", "Cs", "Zl", "Zp", "Zs")


def stray(text: str) -> str | None:
    """Return the letter, word or sign in ``text`` that no number holds; None where there is none.

    Source: rules.md#refusals.
    """
    begun = NUMBER.match(text)
    rest = text[begun.end() if begun else 0 :]
    if not rest:
        return None
    word = WORD.match(rest)
    return word[0] if word else rest[0]


def stray_words(text: str) -> str:
    """Return a sentence that names what keeps ``text`` from being a number; empty for nothing.

    Source: rules.md#refusals.
    """
    found = stray(text)
    if found is None:
        return "It is to be a whole number." if PART.search(text) else ""
    if len(found) == 1 and unicodedata.category(found) in INVISIBLE:
        found = unicodedata.name(found, "").lower() or f"U+{ord(found):04X}"
    return f"“{found}” is the trouble."
