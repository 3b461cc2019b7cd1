"""A view as a page draws it: what stands where, and how the optics turn and mirror it."""

from typing import Literal

from jade_perch.core.arrays import Floats
from jade_perch.core.fields import Frozen
from jade_perch.core.practice.drill import Plane, chance, pair
from jade_perch.core.practice.spiral import OVERLAP

Eye = Literal["main", "finder", "along"]
Scenery = Literal["day", "night"]
ThingKind = Literal["star", "house", "tree", "pole", "hill"]
IN_VIEW = 0.97  # of a view's radius: farther out nothing is told from the edge
ALONG_RADIUS_ARCMIN = 1200.0  # what the eye takes in along the tube; our estimate
ALONG_OFF_ARCMIN = 40.0  # how well a tube is sighted along; our estimate
LOOKS: dict[Eye, str] = {
    "main": "look through the main tube",
    "finder": "look through the finder",
    "along": "look along the tube",
}
STARS, THINGS_A_SCALE = 70, 5
GROUND_ARCMIN = -25.0  # where the ground begins under a landmark's tip
SCALES_ARCMIN = (10.0, 40.0, 150.0, 500.0)  # of what stands about a landmark, near and far
STARS_ARCMIN = (60.0, 200.0, 600.0, 600.0)  # the same of stars


# a small and a large push, in radii of the view the eye is at; our choice
NUDGES: dict[Eye, tuple[float, float]] = {
    "main": (0.12, 2 * OVERLAP),  # a step of a spiral
    "finder": (0.1, 0.5),
    "along": (0.025, 0.2),
}


class Thing(Frozen):
    """Something in the view: where from the target, (right, up) in arcmin, and how large."""

    kind: ThingKind
    right: float
    up: float
    size_arcmin: float


class EyeView(Frozen):
    """What the eye sees: the ``matrix`` times an offset from the view's middle.

    ``centre`` is where the view's middle stands from the target, (right, up) in arcmin; it goes on
    against ``drift``, in arcmin a minute.  ``nudges_arcmin`` are a small and a large push of a hand
    that looks this way.
    """

    eye: Eye
    scenery: Scenery
    finder_kind: str
    matrix: tuple[Plane, Plane]
    centre: Plane
    drift: Plane
    radius_arcmin: float
    things: list[Thing]
    target: ThingKind
    target_words: str
    nudges_arcmin: list[float]


def _beside(thing: Thing) -> Thing:
    """Return something moved aside where it would stand before the target."""
    if thing.kind == "hill" or abs(thing.right) > thing.size_arcmin:
        return thing
    aside = 1.5 * thing.size_arcmin
    return thing.model_copy(update={"right": aside if thing.right >= 0 else -aside})


def nudges_arcmin(eye: Eye, view_radius_arcmin: float) -> list[float]:
    """Return a small and a large push for a view of some radius.  Source: our own choice."""
    return [share * view_radius_arcmin for share in NUDGES[eye]]


def things_about(seed: int, target: int, scenery: Scenery) -> list[Thing]:
    """Return what stands about a target, the same whatever the eye looks through.

    Source: our own choice, by chance from a seed.
    """
    dice = chance(seed, 7, target)
    if scenery == "night":
        return [
            Thing(kind="star", right=float(right), up=float(up), size_arcmin=float(size))
            for right, up, size in zip(
                *dice.normal(0, 1, (2, STARS)) * dice.choice(STARS_ARCMIN, STARS),
                dice.uniform(0.2, 0.6, STARS),
                strict=True,
            )
        ]
    kinds: tuple[ThingKind, ...] = ("house", "tree", "pole", "tree", "hill")
    found = [
        _beside(
            Thing(
                kind=kinds[n % len(kinds)],
                right=float(dice.normal(0, 3 * scale)),
                up=float(GROUND_ARCMIN - abs(dice.normal(0, 0.2)) * scale),
                size_arcmin=float(scale * dice.uniform(0.3, 0.9)),
            )
        )
        for scale in SCALES_ARCMIN
        for n in range(THINGS_A_SCALE)
    ]
    # hills stand behind everything, and what stands lower is nearer
    return sorted(found, key=lambda one: (one.kind != "hill", -one.up))


def rows(matrix: Floats) -> tuple[Plane, Plane]:
    """Return a 2 by 2 matrix as it is told.  Source: rules.md#orientation."""
    return pair(matrix[0]), pair(matrix[1])
