"""A figure opened: formula, the values put in, source and how sure it is."""

from typing import Literal

from jade_perch.core.fields import Frozen

Sureness = Literal["exact", "about", "estimate"]


class Sum(Frozen):
    """One computed figure: what was put into which formula and where it comes from."""

    title: str
    formula: str
    worked: str
    result: str
    source: str
    sureness: Sureness
    note: str = ""
