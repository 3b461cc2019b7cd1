"""Finder: is the landmark far enough, which screw, which way, and what is left at night."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Any, Literal, Self

import numpy as np
from pydantic import model_validator

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.advice import Advice, clock_hour
from jade_perch.core.bench.finderview import (
    SHARE_OF_FIELD,
    Geometry,
    finder_field_deg,
    geometry_of,
    needed_distance_m,
)
from jade_perch.core.bench.landmark import Aim, AimAt, Landmark
from jade_perch.core.bench.loop import Learned, Try, learned
from jade_perch.core.bench.response import Place, Response
from jade_perch.core.bench.screws import (
    WAYS,
    ScrewTurn,
    are_measured,
    screws_instruction,
    told_screws,
    usual_response,
    which_screw,
)
from jade_perch.core.bench.sunguard import LandmarkCheck
from jade_perch.core.constants import ARCMIN_PER_RADIAN
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, Id, Range, refused
from jade_perch.core.kit import Finder
from jade_perch.core.sums import OWN_RULE, Sum
from jade_perch.core.units import METRIC, Units

EDGE = 0.95  # field radii; farther out a landmark cannot be held in view
STAR_JOB_MINUTES = 15.0  # a finder is trimmed on a star in this time; our estimate

On = Literal["landmark", "star", "moon"]
AlignWay = Literal["crossing", "parallel"]
FinderTrouble = Literal["lost", "at_end", "too_dim", "left"]
SeenPart = Annotated[
    float, Range(-1, 1, "field radii", "Point inside the finder's view; -1 to 1 is edge to edge.")
]


class FinderInput(Frozen):
    """Where the target of the main tube stands in the finder's view, or why it cannot be said.

    ``seen_right`` and ``seen_up`` are in field radii as the eye sees them; ``on_mark`` says it
    sits where it should.  ``method`` None is chosen by the landmark's distance.  ``main_tube`` is
    what a look back through it showed.
    """

    finder_id: Id
    on: On = "landmark"
    landmark: Landmark | None = None
    method: AlignWay | None = None
    seen_right: SeenPart | None = None
    seen_up: SeenPart | None = None
    on_mark: bool = False
    trouble: FinderTrouble | None = None
    main_tube: Literal["still_there", "moved"] | None = None

    @model_validator(mode="after")
    def _seen_or_not(self) -> Self:
        if (
            self.trouble is None
            and not self.on_mark
            and (self.seen_right is None or self.seen_up is None)
        ):
            field = "seen_right" if self.seen_right is None else "seen_up"
            raise refused(field, None, "-1 to 1 field radii", "Point at it, or say you do not.")
        return self

    def place(self, wanted: Floats) -> Place:
        """Return where it was seen, if it was; on the mark is where it is ``wanted``.

        Source: rules.md#finder.
        """
        if self.on_mark:
            return Place(float(wanted[0]), float(wanted[1]))
        if self.seen_right is None or self.seen_up is None:
            return Place(is_lost=True)
        return Place(self.seen_right, self.seen_up)

    @property
    def distance_m(self) -> float | None:
        """How far the target is in metres; None for the sky.  Source: rules.md#finder."""
        return self.landmark.metres if self.on == "landmark" and self.landmark else None

    def aim(self) -> Aim:
        """Return what it has the tube look at; raises ``OutOfRange`` for a landmark not told.

        Source: rules.md#finder.
        """
        if self.on != "landmark":
            at: AimAt = "moon" if self.on == "moon" else "stars"
            return Aim(at=at, job_minutes=STAR_JOB_MINUTES)
        if self.landmark is None:
            cure = "Choose it at the Sun guard."
            raise OutOfRange("landmark", "(nothing)", "a landmark to align on", cure)
        return self.landmark.aim()


class FinderAdvice(Advice):
    """What to turn, where the target should stand, and what the first star will show.

    ``agrees`` holds for what it is aligned on; it is done once the main tube was looked through
    again and the target was ``still_there``, and once it holds for stars as well.

    Places are (right, up) in field radii as the eye sees them.
    """

    field_deg: float
    field_is_about: bool
    method: AlignWay
    parallax_arcmin: float
    limit_arcmin: float
    needed_distance_m: float
    is_far_enough: bool
    aim_offset_mm: float
    wanted_right: float
    wanted_up: float
    off_arcmin: float | None
    screws: list[ScrewTurn]
    star_right: float
    star_up: float
    star_off_arcmin: float
    star_words: str
    agrees: bool
    learned: Learned
    round_: Try
    sun: LandmarkCheck


@dataclass(frozen=True, slots=True)
class _Job:
    """One finder on one target, resolved: everything the sentences are made of."""

    given: FinderInput
    finder: Finder
    angles: Geometry
    method: AlignWay
    wanted: Floats
    units: Units


def advise_finder(
    given: FinderInput,
    finder: Finder,
    longest_field_deg: float,
    sun: LandmarkCheck,
    tries: Sequence[Try] = (),
    units: Units = METRIC,
) -> FinderAdvice:
    """Return which screw to turn which way so that the finder shows what the main tube shows.

    The main tube has the target in its middle; ``longest_field_deg`` is the true field of the
    longest eyepiece; ``tries`` are the turns before, of which it learns.  Raises ``OutOfRange``
    where the landmark would stand outside the finder.

    Source: rules.md#finder; rules.md#learning.
    """
    job = _job(given, finder, longest_field_deg, units)
    angles, here = job.angles, given.place(job.wanted)
    usual = usual_response(finder, angles.matrix, angles.field_radius_arcmin)
    response, taught = learned(usual, tries, here, WAYS, finder.traits.mark, "that screw")
    off, star = _offsets(job, here)
    off_arcmin, star_off = None if off is None else float(np.hypot(*off)), float(np.hypot(*star))
    agrees = off_arcmin is not None and off_arcmin <= angles.limit_arcmin
    screws: list[ScrewTurn] = []
    if agrees:
        answer = _agreed(given, here, star_off, angles.limit_arcmin)
    else:
        answer, screws = _turn(job, response, here, tries)
    star_seen = angles.seen(star)
    return FinderAdvice(
        instruction=answer.words,
        detail=_detail(job, agrees, _taught_words(job, taught, usual, tries, here)),
        note="" if off_arcmin is None else f"{off_arcmin:.0f}′ off, {star_off:.0f}′ on a star.",
        is_done=agrees and given.main_tube == "still_there" and star_off <= angles.limit_arcmin,
        sums=_sums(job, longest_field_deg, off_arcmin),
        **_geometry_fields(job, longest_field_deg),
        off_arcmin=off_arcmin,
        screws=screws,
        star_right=float(star_seen[0]),
        star_up=float(star_seen[1]),
        star_off_arcmin=star_off,
        star_words=_star_words(star_off, star_seen, angles.limit_arcmin),
        agrees=agrees,
        learned=taught,
        round_=answer,
        sun=sun,
    )


def _job(given: FinderInput, finder: Finder, longest_field_deg: float, units: Units) -> _Job:
    angles = geometry_of(finder, given.distance_m, longest_field_deg)
    method = given.method or ("crossing" if angles.is_far_enough else "parallel")
    return _Job(given, finder, angles, method, _wanted(angles, finder, given, method), units)


def _geometry_fields(job: _Job, longest_field_deg: float) -> dict[str, Any]:
    """Return what of the answer depends on finder and landmark alone."""
    finder, angles = job.finder, job.angles
    field_deg, about = finder_field_deg(finder)
    return {
        "field_deg": field_deg,
        "field_is_about": about,
        "method": job.method,
        "parallax_arcmin": angles.parallax_arcmin,
        "limit_arcmin": angles.limit_arcmin,
        "needed_distance_m": needed_distance_m(finder.axis_offset_mm, longest_field_deg),
        "is_far_enough": angles.is_far_enough,
        "aim_offset_mm": finder.axis_offset_mm if job.method == "parallel" else 0.0,
        "wanted_right": float(job.wanted[0]),
        "wanted_up": float(job.wanted[1]),
    }


def _offsets(job: _Job, here: Place) -> tuple[Floats | None, Floats]:
    """Return how far off the target and the first star stand, in arcmin to the naked eye."""
    parallax = job.angles.parallax_arcmin * job.angles.side
    if here.is_lost:
        return None, np.zeros(2)
    seen = job.angles.true(here.vector)
    return seen - job.angles.true(job.wanted), seen + parallax


def _wanted(angles: Geometry, finder: Finder, given: FinderInput, method: AlignWay) -> Floats:
    """Return where in the view the landmark belongs, in radii; it has to be seen there."""
    wanted = angles.seen(-angles.parallax_arcmin * angles.side * (method == "parallel"))
    if np.hypot(*wanted) > EDGE or angles.parallax_arcmin > angles.field_radius_arcmin:
        raise _outside(angles, finder, given)
    return wanted


def _outside(angles: Geometry, finder: Finder, given: FinderInput) -> OutOfRange:
    edge = np.tan(EDGE * angles.field_radius_arcmin / ARCMIN_PER_RADIAN)
    return OutOfRange(
        "landmark.distance_m",
        given.distance_m or 0.0,
        f"more than {finder.axis_offset_mm / 1000 / edge:.0f} m for {finder.name}",
        "So near, the landmark falls outside the finder's field; choose one farther away.",
    )


TROUBLES: dict[FinderTrouble, str] = {
    "lost": "Set its screws to their middle, then sight along it until the target appears.",
    "at_end": "Set all its screws to the middle of their travel and begin again.",
    "too_dim": "Shade its window with a hand, or take a darker landmark.",
    "left": "Take a landmark that stays: a chimney, a mast, a far tree.",
}


def _turn(
    job: _Job, response: Response, here: Place, tries: Sequence[Try]
) -> tuple[Try, list[ScrewTurn]]:
    """Return what to turn, and the screws of a ring."""
    round_ = Try(right=here.right, up=here.up, is_lost=here.is_lost)
    if job.given.trouble is not None:
        back = _turned_back(job.given.trouble, tries)
        words = TROUBLES[job.given.trouble]
        if back is not None:
            words = "Turn every screw back by as much as you just turned it."
        return round_.model_copy(update={"words": words, "asked": back}), []
    if job.finder.screw_count == 2:
        return round_.model_copy(update={"words": _two_screws(job)}), []
    turn = response.turn_for(here, job.wanted - here.vector)
    screws, made = told_screws(turn, job.finder)
    asked = (float(made[0]), float(made[1]))
    words = screws_instruction(screws)
    return round_.model_copy(update={"words": words, "asked": asked}), screws


def _turned_back(trouble: FinderTrouble, tries: Sequence[Try]) -> tuple[float, float] | None:
    """Return the last turn turned back, where it is what took the target out of the view."""
    if trouble != "lost" or not tries or tries[-1].is_lost or tries[-1].is_broken:
        return None
    asked = tries[-1].asked
    return None if asked is None else (-asked[0], -asked[1])


def _two_screws(job: _Job) -> str:
    """Return how two screws bring the mark on: whichever does what is seen while turning."""
    where = "the target"
    if job.method == "parallel":
        away = job.units.small(job.finder.axis_offset_mm)
        where = f"{away} {_way_words(job.angles.side)} the target"
    mark = job.finder.traits.mark
    comes = "come" if mark.endswith("s") else "comes"
    return f"Turn one screw until the {mark} {comes} nearest {where}, then the other."


def _way_words(side: Floats) -> str:
    """Return a side as a word, to the naked eye."""
    if abs(side[0]) >= abs(side[1]):
        return "right of" if side[0] > 0 else "left of"
    return "above" if side[1] > 0 else "below"


def _agreed(given: FinderInput, place: Place, star_off: float, limit: float) -> Try:
    words = "Now look through the main tube: is it still in the middle?"
    if given.main_tube == "moved":
        words = "Centre it again in the main tube, then look in the finder again."
    elif given.main_tube == "still_there" and star_off > limit:
        words = f"Both agree here; on a star {star_off:.0f}′ will be left to trim."
    elif given.main_tube == "still_there":
        words = "The finder agrees: snug its screws without moving it."
    return Try(right=place.right, up=place.up, words=words)


def _taught_words(
    job: _Job, taught: Learned, usual: Floats, tries: Sequence[Try], here: Place
) -> str:
    """Return what the last turn taught; where it went sideways, as if which screw was turned."""
    if taught.verdict != "sideways" or job.finder.screw_count == 2 or here.is_lost:
        return taught.words
    moved = here.vector - tries[-1].place.vector
    return f"{taught.words} {which_screw(usual, job.finder, moved)}"


def _detail(job: _Job, agrees: bool, taught: str) -> str:
    parts = [taught] if taught else []
    finder, given = job.finder, job.given
    if given.trouble == "at_end":
        parts.append("If one ends again, put a strip of card under one end of its foot.")
    if given.on == "landmark" and not job.angles.is_far_enough:
        parts.append(
            "The landmark is too near for crossing axes: it will be off at night."
            if job.method == "crossing"
            else "The landmark is near, so the finder aims beside it, at the ring drawn."
        )
    if not agrees and given.trouble is None:
        mark = finder.traits.mark
        if finder.screw_count == 2:
            parts.append(f"One screw moves the {mark} sideways, the other up and down.")
        elif job.angles.matrix[0][0] < 0:
            parts.append(f"In this finder the {mark} seems to go the other way: trust the screws.")
    return " ".join([*parts, finder.traits.off_words]).strip()


def _star_words(star_off: float, seen: Floats, limit: float) -> str:
    if star_off <= limit:
        return "On the first star the finder will be right: inside your widest field."
    hour = clock_hour(float(seen[0]), float(seen[1]))
    return (
        f"On the first star the target will stand {star_off:.0f}′ from the mark, toward "
        f"{hour} o'clock as you see it: trim it there."
    )


def _sums(job: _Job, field_deg: float, off_arcmin: float | None) -> list[Sum]:
    given, finder, angles = job.given, job.finder, job.angles
    sums = []
    if off_arcmin is not None:
        sums.append(
            Sum(
                title="Off in the finder",
                formula="place seen × field radius, turned back as this finder shows it",
                worked="on the mark, as the eye judges it"
                if given.on_mark
                else f"({given.seen_right:.2f}, {given.seen_up:.2f}) × "
                f"{angles.field_radius_arcmin:.0f}′",
                result=f"{off_arcmin:.0f}′",
                source=OWN_RULE,
                rule="finder",
                sureness="about",
                note=f"Good within {angles.limit_arcmin:.0f}′, as well as it is pointed at. "
                + (
                    "Turns follow from lever and thread of the screws, as measured."
                    if are_measured(finder)
                    else "Turns begin from a usual screw and learn from each turn."
                ),
            )
        )
    if given.landmark is not None and given.on == "landmark":
        needed = job.units.distance(needed_distance_m(finder.axis_offset_mm, field_deg))
        is_known = finder.offset_mm is not None and given.landmark.is_paced
        sums.append(
            Sum(
                title="Parallax",
                formula="atan(s ÷ d); far enough when it is under a tenth of the field's radius",
                worked=f"atan({finder.axis_offset_mm:g} mm ÷ {given.landmark.metres:g} m), "
                f"0.1 × {field_deg:.2f}° ÷ 2 = {SHARE_OF_FIELD * field_deg * 30:.1f}′",
                result=f"{angles.parallax_arcmin:.1f}′",
                source=OWN_RULE,
                rule="finder",
                sureness="exact" if is_known else "estimate",
                note=f"From {needed} on it does not matter which way you align.",
            )
        )
    return sums
