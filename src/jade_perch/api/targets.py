"""What can be looked at, by name: every station asks here for what it shows."""

from typing import Annotated

from jade_perch.api.dependencies import TheCatalogue
from jade_perch.api.stations import station
from jade_perch.core.fields import Label, Range
from jade_perch.core.sky.catalogue import MOST_FOUND
from jade_perch.core.sky.targets import Target

router = station("/targets", "targets")
USUAL_FOUND = 20  # rows of a drop-down that are read before one types on
Most = Annotated[int, Range(1, MOST_FOUND, "targets", "Type more of the name instead.")]


@router.get("")
def search_targets(
    catalogue: TheCatalogue, text: Label = "", most: Most = USUAL_FOUND
) -> list[Target]:
    """Return the targets whose names hold a text, best first; without one the first of all."""
    return catalogue.search(text, most)


@router.get("/{key}")
def get_target(key: Label, catalogue: TheCatalogue) -> Target:
    """Return what a key or name means; refused for nothing known, and for the Sun."""
    return catalogue.get(key)
