"""What the store cannot do, with the names and values needed to say so."""

from collections.abc import Mapping

from jade_perch.core.fields import Item


class StoreError(Exception):
    """Base of everything the store refuses."""


def said(kind: str) -> str:
    """Return what people call the records of a table."""
    return kind.replace("_", " ")


class NotFound(StoreError):
    """There is no such record, or it has been deleted."""

    def __init__(self, kind: str, item_id: int) -> None:
        super().__init__(f"There is no {said(kind)} number {item_id}. It may have been deleted.")
        self.kind, self.item_id = kind, item_id


class NameTaken(StoreError):
    """Another record of the same kind has this name already."""

    def __init__(self, kind: str, name: str) -> None:
        article = "An" if kind[0] in "aeiou" else "A"
        super().__init__(
            f"{article} {said(kind)} named {name!r} is there already. Choose another name."
        )
        self.kind, self.name = kind, name


class Unreadable(StoreError):
    """A record holds a value that it cannot have; it stays as it is, and out of every list."""

    def __init__(self, kind: str, item_id: int, why: str) -> None:
        super().__init__(f"The {said(kind)} number {item_id} cannot be read: {why}")
        self.kind, self.item_id, self.why = kind, item_id, why


class RefersToNothing(StoreError):
    """A record points at others that were never there; ``fields`` are those it may be."""

    def __init__(self, kind: str, fields: dict[str, int]) -> None:
        named = ", ".join(f"{field} {value}" for field, value in fields.items())
        super().__init__(f"This {said(kind)} refers to something that is not there: {named}.")
        self.kind, self.fields = kind, fields


class Stale(StoreError):
    """A record was changed by somebody else since it was read; ``changed`` holds both values."""

    def __init__(self, kind: str, stored: Item, changed: Mapping[str, tuple[object, object]]):
        named = ", ".join(changed)
        super().__init__(
            f"This {said(kind)} was changed meanwhile, perhaps in another window: {named} differ. "
            "Look at both and keep one."
        )
        self.kind, self.stored, self.changed = kind, stored, changed


class Contradiction(StoreError):
    """A record does not agree with itself or with what is stored."""

    def __init__(self, kind: str, reason: str) -> None:
        super().__init__(f"This {said(kind)} cannot be stored: {reason}. Correct it and try again.")


class DatabaseUnusable(StoreError):
    """The file cannot be opened as a database of this application."""
