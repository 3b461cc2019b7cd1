"""The arrays the core computes with, named once, and rows of several."""

from dataclasses import fields
from typing import TYPE_CHECKING, TypeVar

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    from _typeshed import DataclassInstance

Floats = NDArray[np.float64]
Integers = NDArray[np.intp]
Truths = NDArray[np.bool_]

C = TypeVar("C", bound="DataclassInstance")


def rows_of(columns: C, at: Integers | Truths | slice) -> C:
    """Return some rows of columns that are of one length.  Source: the columns."""
    return type(columns)(*(getattr(columns, one.name)[at] for one in fields(columns)))
