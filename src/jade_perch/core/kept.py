"""Something large as the key of what is kept of it."""

from dataclasses import dataclass
from typing import Generic, TypeVar

T = TypeVar("T")


@dataclass(frozen=True, eq=False)
class Kept(Generic[T]):
    """A thing as a key: equal to itself alone, whatever it holds; nobody may change it any more."""

    it: T

    def __hash__(self) -> int:
        return id(self.it)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Kept) and other.it is self.it
