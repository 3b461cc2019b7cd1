"""The one screen of the dark hours: where one stands, what to do now, and what goes with it."""

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass

from jade_perch.core.bench.budget import Reading, ReadingName
from jade_perch.core.bench.cooling import Forecast
from jade_perch.core.bench.sunguard import LandmarkCheck
from jade_perch.core.evening.closer import look_closer
from jade_perch.core.evening.desk import ReadyDesk
from jade_perch.core.evening.finding import FindingPath, make_path
from jade_perch.core.evening.interest import LOWEST_DEG, paths_of
from jade_perch.core.evening.plan import Block
from jade_perch.core.evening.prospect import Case, Prospect, look_through
from jade_perch.core.evening.view import Through, course_of, drift_way_deg
from jade_perch.core.eyepiece.coming import Ahead, Event, events_ahead
from jade_perch.core.eyepiece.keeping import Keeping, Push, keep_on, push_of, zenith_of
from jade_perch.core.eyepiece.lookfor import LookFor, look_for
from jade_perch.core.eyepiece.people import Queue, hint_for, make_queue, reach_of
from jade_perch.core.eyepiece.pointing import sun_check
from jade_perch.core.eyepiece.sitting import Sitting
from jade_perch.core.eyepiece.tonightsky import (
    AirStep,
    DarkEyes,
    dark_eyes,
    everybodys_eyes,
    sky_words,
    steadiness_steps,
    transparency_steps,
)
from jade_perch.core.eyepiece.walk import Walk, climb_rungs, find_step, make_walk
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Observer
from jade_perch.core.moments import clock_time
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.optics.rungs import Rung
from jade_perch.core.safety import sun_at
from jade_perch.core.sky.sunpath import SUN_MARGIN
from jade_perch.core.sky.targets import Placed, Target

SOON = dt.timedelta(minutes=5)  # a target that stands right so soon may be found already
MOST_OFFERED = 3  # targets offered between two


class Offer(Frozen):
    """A target offered next: by the plan at its time, or off tonight's list."""

    target_key: str
    label: str
    words: str
    starts_utc: dt.datetime | None
    is_now: bool
    is_planned: bool


class SlimRung(Frozen):
    """A rung on the slim ladder beside the step."""

    key: str
    label: str
    magnification: float
    is_over_air: bool
    is_top: bool


class Here(Frozen):
    """The target one stands at, told for now.

    ``where_words`` says where it stands, or that nothing can be seen of it now; ``counted`` is its
    place in the plan, such as "3 of 6", empty in free observing.  ``safe_until_utc`` is until when
    pointing is safe by what the Sun guard said, for a page that hears nothing more.
    """

    target: Target
    prospect: Prospect
    where_words: str
    is_out_of_sight: bool
    counted: str
    walk: Walk
    at: int
    path: FindingPath | None
    sun: LandmarkCheck
    sun_is_up: bool
    safe_until_utc: dt.datetime
    rungs: list[SlimRung]
    air_magnification: float
    keeping: list[Keeping]
    push: Push | None
    zenith_words: str


class AirTonight(Frozen):
    """Tonight's air and dark as judged, and the steps to judge them by."""

    steadiness: int | None
    transparency: int | None
    faintest_seen_mag: float | None
    sky_words: str
    steady_steps: list[AirStep]
    clear_steps: list[AirStep]


class Screen(Frozen):
    """Everything the eyepiece station shows, for one moment.

    ``here`` is the target one stands at or is offered first, None where there is nothing to offer;
    ``is_between`` while nobody has gone to it yet.  ``left_words`` say what the last evening left
    open, until this one begins.
    """

    date: dt.date
    site_id: int | None
    now_utc: dt.datetime
    sitting: Sitting
    is_between: bool
    here: Here | None
    offers: list[Offer]
    offer_words: str
    left_words: str
    air: AirTonight
    eyes: DarkEyes
    everybodys_eyes: list[DarkEyes]
    people: list[Observer]
    person: Observer | None
    queue: Queue
    events: list[Event]


@dataclass(frozen=True, slots=True)
class Known:
    """What a screen is made of, besides the desk: the night's case and what was read and said."""

    case: Case
    sitting: Sitting
    readings: dict[ReadingName, Reading]
    pivot_mm: float | None
    air: Forecast
    offers: Sequence[Offer]
    offer_words: str
    wished: Sequence[str]
    left_words: str = ""


def make_screen(desk: ReadyDesk, known: Known) -> Screen:
    """Return the screen of a desk's moment.

    Source: rules.md#walk and the sections it names.
    """
    sitting = known.sitting
    key = sitting.spot.target_key if sitting.spot is not None else None
    if key is None and known.offers:
        key = known.offers[0].target_key
    here, ahead = (None, None) if key is None else _here(desk, known, key)
    person = _person(desk, sitting)
    at = (sitting, desk.night)
    return Screen(
        date=desk.night.date,
        site_id=desk.place.id,
        now_utc=desk.moment_utc,
        sitting=sitting,
        is_between=sitting.spot is None,
        here=here,
        offers=list(known.offers),
        offer_words=known.offer_words,
        left_words=known.left_words,
        air=air_tonight(desk),
        eyes=dark_eyes(*at, person, desk.moment_utc, desk.place.zone),
        everybodys_eyes=everybodys_eyes(*at, desk.people, desk.moment_utc, desk.place.zone),
        people=list(desk.people),
        person=person,
        queue=_queue(desk, known, here, person),
        events=events_ahead(
            desk.night, sitting, known.air, desk.moment_utc, desk.units, ahead, desk.place.skyline
        ),
    )


def air_tonight(desk: ReadyDesk) -> AirTonight:
    """Return tonight's air and dark with the steps to judge them by.

    Source: rules.md#air; rules.md#haze.
    """
    faintest = desk.choice.faintest_seen_mag
    return AirTonight(
        steadiness=desk.choice.steadiness,
        transparency=desk.choice.transparency,
        faintest_seen_mag=faintest,
        sky_words="" if faintest is None else sky_words(faintest),
        steady_steps=steadiness_steps(desk.power_notes, desk.telescope.name),
        clear_steps=transparency_steps(),
    )


def offer_of(block: Block, now_utc: dt.datetime, zone: str) -> Offer:
    """Return a block of the plan as an offer.  Source: rules.md#walk."""
    is_now = block.starts_utc - SOON <= now_utc
    at = clock_time(block.starts_utc, zone)
    words = "It is its time now." if is_now else f"It stands right at {at}."
    return Offer(
        target_key=block.target_key or "",
        label=block.label,
        words=words,
        starts_utc=block.starts_utc,
        is_now=is_now,
        is_planned=True,
    )


def offers_off_list(prospects: Sequence[Prospect], sitting: Sitting) -> list[Offer]:
    """Return the best of tonight's list that show now, what was passed by last.

    Source: rules.md#walk.
    """
    now = [
        one
        for one in prospects
        if one.when == "now" and not one.is_hidden and one.target.key not in sitting.done
    ]
    now.sort(key=lambda one: one.target.key in sitting.passed)
    return [
        Offer(
            target_key=one.target.key,
            label=one.target.label,
            words=one.expected,
            starts_utc=None,
            is_now=True,
            is_planned=False,
        )
        for one in now[:MOST_OFFERED]
    ]


def _here(desk: ReadyDesk, known: Known, key: str) -> tuple[Here, Ahead | None]:
    """Return a target told for now, and where it goes from now on while it can be seen."""
    case, ladder = known.case, desk.ladder
    closer = look_closer(case, key)
    prospect = closer.prospect
    target = case.catalogue.get(key)
    prospect = prospect.model_copy(update={"target": target})
    placed = Placed(
        target=target, altitude_deg=prospect.altitude_deg, azimuth_deg=prospect.azimuth_deg
    )
    rungs, top = climb_rungs(ladder, prospect)
    looks = _looks(case, target, prospect, top)
    sun_is_up = sun_at(desk.place, desk.now).is_up
    at = (desk.finders, desk.viewer(), desk.moment_utc)
    # by day there is no star to start from
    path = None if sun_is_up else make_path(case.catalogue, desk.place, target, *at)
    check = sun_check(target, desk.place, desk.now)
    walk = make_walk(ladder, prospect, path, looks, desk.amplifiers, by_day=sun_is_up)
    course = course_of(target, desk.place, desk.moment_utc)
    along = paths_of(desk.place, [placed], desk.moment_utc)[0]
    ahead = None
    if prospect.altitude_deg > 0 and not prospect.is_hidden:
        zenith = zenith_of(along, desk.known_mount, desk.place, desk.moment_utc)
        ahead = Ahead(place=placed, along=along, zenith=zenith)
    here = Here(
        target=target,
        prospect=prospect,
        where_words=_where_words(prospect),
        is_out_of_sight=ahead is None,
        counted=_counted(known, key),
        walk=walk,
        at=find_step(walk, known.sitting.spot),
        path=path,
        sun=check,
        sun_is_up=sun_is_up,
        safe_until_utc=_safe_until(desk, check, sun_is_up=sun_is_up),
        rungs=_slim(rungs, top, ladder),
        air_magnification=ladder.air_magnification,
        keeping=keep_on(along, rungs, desk.known_mount, desk.place, known.readings, course),
        push=_push(desk, placed, rungs),
        zenith_words="" if ahead is None or ahead.zenith is None else ahead.zenith.words,
    )
    return here, ahead


def _safe_until(desk: ReadyDesk, check: LandmarkCheck, *, sun_is_up: bool) -> dt.datetime:
    """Return until when what the guard said holds with nobody asking it again.

    By day for the job it was asked about, by night until the Sun may count as up.
    """
    if check.refused or check.allowed_from_utc is not None:
        return desk.moment_utc
    sunrise = desk.night.sunrise_utc
    if sun_is_up or sunrise is None or desk.moment_utc >= sunrise - SUN_MARGIN:
        return check.holds_until_utc
    return max(check.holds_until_utc, sunrise - SUN_MARGIN)


def _looks(case: Case, target: Target, prospect: Prospect, top: Rung | None) -> list[LookFor]:
    row = case.catalogue.row_of(target.key) or 0
    if top is None:
        return [LookFor(words=prospect.expected)]
    return look_for(look_through(case.catalogue, row, target, prospect.word, top))


def _slim(rungs: Sequence[Rung], top: Rung | None, ladder: Ladder) -> list[SlimRung]:
    return [
        SlimRung(
            key=one.key,
            label=one.label,
            magnification=one.magnification,
            is_over_air=one.magnification > ladder.air_magnification,
            is_top=top is not None and one.key == top.key,
        )
        for one in rungs
    ]


def _push(desk: ReadyDesk, placed: Placed, rungs: Sequence[Rung]) -> Push | None:
    if not rungs:
        return None
    mount = desk.known_mount
    through = Through(desk.telescope, desk.diagonal, rungs[0], mount.traits.has_polar_axis)
    way = drift_way_deg(through, placed.target, desk.place, desk.moment_utc)
    return push_of(placed, mount, desk.place.latitude_deg, way)


def _where_words(prospect: Prospect) -> str:
    where = f"{max(0.0, prospect.altitude_deg):.0f}° high, {prospect.direction}"
    if prospect.altitude_deg <= 0:
        return "It is below the horizon now: take another, or come back later."
    if prospect.is_hidden:
        return f"{where}: behind your skyline now. Take another, or come back later."
    if prospect.altitude_deg < LOWEST_DEG:
        return f"{where}: low, in thick air"
    return where


def _counted(known: Known, key: str) -> str:
    if key not in known.wished:
        return ""
    over = [one for one in known.wished if one in known.sitting.done and one != key]
    return f"{len(over) + 1} of {len(known.wished)}"


def _person(desk: ReadyDesk, sitting: Sitting) -> Observer | None:
    """Return who looks: as said, else the chosen observer, else the only one there is."""
    named = next((one for one in desk.people if one.id == sitting.person_id), None)
    if named is not None:
        return named
    if desk.observer is not None and desk.observer in desk.people:
        return desk.observer
    return desk.people[0] if len(desk.people) == 1 else None


def _queue(desk: ReadyDesk, known: Known, here: Here | None, person: Observer | None) -> Queue:
    """Return the queue with what whoever looks needs at this rung and height."""
    sitting = known.sitting
    rung = None if here is None else _rung_in(desk, here, sitting)
    eyepiece = next(
        (one for one in desk.eyepieces if rung is not None and one.id == rung.eyepiece_id), None
    )
    before_id = sitting.queue[-1] if sitting.queue and sitting.turn_since_utc else None
    hint = None
    if person is not None:
        altitude = None if here is None else max(0.0, here.prospect.altitude_deg)
        at = (desk.telescope, desk.diagonal)
        reach = ("", True)
        if altitude is not None:
            reach = reach_of(person, *at, altitude, known.pivot_mm, desk.units)
        focal_mm = None if eyepiece is None else eyepiece.focal_length_mm
        factor = 1.0
        if rung is not None and focal_mm is not None:
            factor = rung.magnification * focal_mm / desk.telescope.focal_length_mm
        before = next((one for one in desk.everybody if one.id == before_id), None)
        hint = hint_for(person, before, rung, focal_mm, factor, reach, desk.units)
    keeping = None
    if here is not None and rung is not None:
        keeping = next((one for one in here.keeping if one.rung_key == rung.key), None)
    return make_queue(sitting, desk.people, hint, keeping)


def _rung_in(desk: ReadyDesk, here: Here, sitting: Sitting) -> Rung | None:
    """Return the rung that is in, or the first of the walk."""
    spot = sitting.spot
    key = spot.rung_key if spot is not None and spot.rung_key else None
    if key is None and here.rungs:
        key = here.rungs[0].key
    return next((one for one in desk.ladder.rungs if one.key == key), None)
