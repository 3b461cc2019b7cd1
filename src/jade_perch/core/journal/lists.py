"""Lists of targets to be seen one by one: those that come with the application, and one's own."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from pydantic import AfterValidator

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.prospects import classic_rows
from jade_perch.core.fields import Frozen, Item, Label, Loaded, Name, UtcTime, refused
from jade_perch.core.sky.catalogue import Catalogue, spelled

MOST_ENTRIES = 2000  # of one list; the longest printed ones have some hundred
BRIGHT_PAIR_MAG, FAINTEST_COMPANION_MAG = 5.0, 9.0  # a small glass on a poor night; our choice
CLOSEST_PAIR_ARCSEC = 1.5  # an aperture of 80 mm splits it; our choice
# Fifty things that low light shows well in any telescope, over the whole face; our choice.
MOON_FIFTY = (
    "Mare Humboldtianum", "Mare Smythii", "Mare Crisium", "Endymion", "Langrenus", "Cleomedes",
    "Petavius", "Furnerius", "Messier", "Mare Fecunditatis", "Atlas", "Hercules", "Vallis Rheita",
    "Janssen", "Mare Nectaris", "Piccolomini", "Fracastorius", "Posidonius", "Theophilus",
    "Catharina", "Rupes Altai", "Plinius", "Lacus Somniorum", "Mare Serenitatis",
    "Maurolycus", "Aristoteles", "Montes Caucasus", "Rima Ariadaeus", "Hipparchus", "Albategnius",
    "Vallis Alpes", "Cassini", "Walther", "Ptolemaeus", "Archimedes", "Rupes Recta", "Plato",
    "Montes Apenninus", "Eratosthenes", "Tycho", "Clavius", "Copernicus", "Bullialdus",
    "Sinus Iridum", "Gassendi", "Kepler", "Aristarchus", "Vallis Schröteri", "Schickard",
    "Grimaldi",
)  # fmt: skip


class ListEntry(Frozen):
    """One thing to see: its name as the list has it, and the target it means where known."""

    name: Name
    target_key: Label | None = None


def _not_too_many(entries: tuple[ListEntry, ...]) -> tuple[ListEntry, ...]:
    if not 0 < len(entries) <= MOST_ENTRIES:
        allowed = f"1 to {MOST_ENTRIES} entries"
        raise refused("entries", f"{len(entries)} entries", allowed, "Split the list.")
    return entries


class TargetList(Item):
    """A list of one's own, in the order it was given."""

    name: Name
    entries: Annotated[tuple[ListEntry, ...], Loaded, AfterValidator(_not_too_many)]


class GivenList(Frozen):
    """A list as it is worked through; ``list_id`` is None for one that comes with the house."""

    key: str
    title: str
    about: str
    entries: tuple[ListEntry, ...]
    list_id: int | None = None


@dataclass(frozen=True, slots=True)
class _Shipped:
    title: str
    about: str
    rows: Callable[[Catalogue], Sequence[int]]


def _classic(catalogue: Catalogue) -> Sequence[int]:
    return sorted(
        classic_rows(catalogue), key=lambda row: int(catalogue.labels[row].split()[0][1:])
    )


def _planets(catalogue: Catalogue) -> Sequence[int]:
    return [row for row, kind in enumerate(catalogue.kinds) if kind == "planet"]


def _moon_features(catalogue: Catalogue) -> Sequence[int]:
    named = [catalogue.row_of(f"Crater {name}") or catalogue.row_of(name) for name in MOON_FIFTY]
    rows = [row for row in named if row is not None]
    return sorted(rows, key=lambda row: -float(catalogue.numbers["moon_longitude_deg"][row]))


def _doubles(catalogue: Catalogue) -> Sequence[int]:
    numbers = catalogue.numbers
    with np.errstate(invalid="ignore"):
        is_bright = (
            (numbers["magnitude"] <= BRIGHT_PAIR_MAG)
            & (numbers["companion_mag"] <= FAINTEST_COMPANION_MAG)
            & (numbers["separation_arcsec"] >= CLOSEST_PAIR_ARCSEC)
        )
    rows = [
        row for row in np.flatnonzero(is_bright).tolist() if catalogue.kinds[row] == "double star"
    ]
    return sorted(rows, key=lambda row: float(numbers["magnitude"][row]))


SHIPPED: Mapping[str, _Shipped] = {
    "classic": _Shipped("The classic 110", "Showpieces of the northern sky, by number.", _classic),
    "planets": _Shipped("Planets", "All that go round the Sun beside us.", _planets),
    "moon": _Shipped(
        "Fifty on the Moon", "In the order in which the growing Moon uncovers them.", _moon_features
    ),
    "doubles": _Shipped("Bright doubles", "Two stars for one, the brightest first.", _doubles),
}
OWN = "own-"  # the key of a list of one's own begins so, and ends in its number


def shipped_lists(catalogue: Catalogue) -> list[GivenList]:
    """Return the lists that come with the application.  Source: rules.md#lists."""
    return [shipped_list(key, catalogue) for key in SHIPPED]


def shipped_list(key: str, catalogue: Catalogue) -> GivenList:
    """Return the list of one of the keys in ``SHIPPED``.  Source: rules.md#lists."""
    one = SHIPPED[key]
    return GivenList(
        key=key,
        title=one.title,
        about=one.about,
        entries=tuple(
            ListEntry(name=catalogue.labels[row][:80], target_key=catalogue.keys[row])
            for row in one.rows(catalogue)
        ),
    )


def own_list(kept: TargetList) -> GivenList:
    """Return a list of one's own as it is worked through.  Source: rules.md#lists."""
    return GivenList(
        key=f"{OWN}{kept.id}",
        title=kept.name,
        about="A list of your own.",
        entries=kept.entries,
        list_id=kept.id,
    )


def resolved(name: str, catalogue: Catalogue) -> ListEntry:
    """Return an entry of a name, with its target where the catalogue knows one.

    Source: as ``find``.
    """
    row = catalogue.row_of(name)
    return ListEntry(name=name, target_key=None if row is None else catalogue.keys[row])


State = Literal["seen", "glimpsed", "tried", "open"]
STATES: tuple[State, ...] = ("seen", "glimpsed", "tried", "open")


class Noted(Frozen):
    """What the notes say of one thing: how often, first when, and the best that was said of it.

    ``observation_id`` is the note that counts for it: the first of the best.
    """

    state: State
    times: int
    observation_id: int
    first_utc: UtcTime


class Mark(Frozen):
    """One entry of a list as it stands; numbers count from 1."""

    number: int
    name: str
    target_key: str | None
    kind: str
    constellation: str
    state: State
    times: int
    observation_id: int | None
    first_utc: UtcTime | None


class ListProgress(Frozen):
    """A list as it stands: its marks in its own order, and how many are what."""

    key: str
    title: str
    about: str
    list_id: int | None
    marks: list[Mark]
    seen: int
    glimpsed: int
    tried: int
    words: str


def identity_of(entry: ListEntry) -> str:
    """Return by what the notes of an entry are found: its target, or its name as people write it.

    Source: rules.md#lists.
    """
    return entry.target_key or f"~{spelled(entry.name)}"


def progress_of(given: GivenList, noted: Mapping[str, Noted], catalogue: Catalogue) -> ListProgress:
    """Return how a list stands; ``noted`` goes by what ``identity_of`` says.

    Source: rules.md#lists.
    """
    marks = [
        _mark(number, entry, noted.get(identity_of(entry)), catalogue)
        for number, entry in enumerate(given.entries, 1)
    ]
    counts = {state: sum(one.state == state for one in marks) for state in STATES}
    return ListProgress(
        key=given.key,
        title=given.title,
        about=given.about,
        list_id=given.list_id,
        marks=marks,
        seen=counts["seen"],
        glimpsed=counts["glimpsed"],
        tried=counts["tried"],
        words=_progress_words(counts, len(marks)),
    )


def _mark(number: int, entry: ListEntry, noted: Noted | None, catalogue: Catalogue) -> Mark:
    row = None if entry.target_key is None else catalogue.row_of(entry.target_key)
    return Mark(
        number=number,
        name=entry.name,
        target_key=entry.target_key,
        kind="" if row is None else catalogue.kinds[row],
        constellation="" if row is None else catalogue.constellations[row],
        state="open" if noted is None else noted.state,
        times=0 if noted is None else noted.times,
        observation_id=None if noted is None else noted.observation_id,
        first_utc=None if noted is None else noted.first_utc,
    )


def _progress_words(counts: Mapping[State, int], total: int) -> str:
    done = counts["seen"] + counts["glimpsed"]
    if done == total:
        return f"All {total} seen."
    parts = [f"{done} of {total} seen"]
    if counts["glimpsed"]:
        parts.append(f"{counts['glimpsed']} of them glimpsed")
    if counts["tried"]:
        parts.append(f"{counts['tried']} tried in vain")
    return f"{', '.join(parts)}; {total - done} to go."


def require_list(found: GivenList | None, key: str) -> GivenList:
    """Return a list, or raise ``OutOfRange`` where there is none of that key.

    Source: rules.md#lists.
    """
    if found is None:
        names = ", ".join(SHIPPED)
        allowed = f"{names}, or a list of your own"
        raise OutOfRange("list", key, allowed, "It may have been taken out: choose another.")
    return found
