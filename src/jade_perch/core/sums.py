"""A figure opened: formula, the values put in, source and how sure it is."""

from typing import Literal

from jade_perch.core.fields import Frozen

OWN_RULE = "Our own rule, told below"
Sureness = Literal["exact", "about", "estimate"]


class Sum(Frozen):
    """One computed figure: what was put into which formula and where it comes from.

    ``rule`` is the section of docs/rules.md that says more.
    """

    title: str
    formula: str
    worked: str
    result: str
    source: str
    rule: str
    sureness: Sureness
    note: str = ""
