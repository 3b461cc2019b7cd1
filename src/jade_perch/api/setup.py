"""Station setup: the bench, step by step; every advice can be recorded into the evening."""

import sqlite3
from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, TypeVar

from fastapi import APIRouter, Depends, Response
from pydantic import BaseModel

from jade_perch.api.dependencies import Db, TheClock
from jade_perch.api.items import item_router
from jade_perch.api.powers import ladders_of
from jade_perch.core.bench.advice import Advice
from jade_perch.core.bench.balance import BalanceAdvice, BalanceInput, advise_balance
from jade_perch.core.bench.budget import Budget, make_budget
from jade_perch.core.bench.cooling import CoolAdvice, CoolInput, Weather, advise_cooling
from jade_perch.core.bench.finder import FinderAdvice, FinderInput, advise_finder
from jade_perch.core.bench.focus import FocusAdvice, FocusInput, advise_focus
from jade_perch.core.bench.level import LevelAdvice, LevelInput, advise_level
from jade_perch.core.bench.north import (
    NorthAdvice,
    NorthBoard,
    NorthInput,
    advise_north,
    north_board,
)
from jade_perch.core.bench.seat import StandAdvice, StandInput, advise_stand
from jade_perch.core.bench.sunguard import (
    Landmark,
    LandmarkCheck,
    SunRing,
    check_landmark,
    check_stars,
    moon_landmark,
    require_safe,
    sun_ring,
)
from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.card import make_card
from jade_perch.core.evening.interest import looking_moment, paths_of, places_of_interest
from jade_perch.core.evening.setup import (
    MISHAPS,
    UNNAMED_MOUNT,
    Mishap,
    MishapChoice,
    SetupReading,
    Step,
    StepName,
    budget_readings,
    make_steps,
    mishaps_of,
    require_word_enough,
    resting_on,
)
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.kit import Diagonal, Eyepiece, Finder, Mount, Observer, Telescope
from jade_perch.core.optics.ladder import Ladder, Ways
from jade_perch.core.site import Site
from jade_perch.core.sky.night import Night, evening_date, make_night
from jade_perch.exchange.setup_card_pdf import write_setup_card
from jade_perch.standins.weather import simulated_weather
from jade_perch.store.evening import chosen_site, chosen_telescope, get_choice
from jade_perch.store.items import find_item, get_item, list_items
from jade_perch.store.kit import DIAGONALS, EYEPIECES, FINDERS, MOUNTS, OBSERVERS
from jade_perch.store.setup import PARFOCALS, readings_of, record_reading, spoil

router = APIRouter(prefix="/setup", tags=["setup"])
router.include_router(item_router(PARFOCALS, "parfocals"))

A = TypeVar("A", bound=Advice)
STAR_JOB_MINUTES = 15.0  # a finder is trimmed on a star in this time
MOST_TARGETS = 10  # bars that fit the bench at one glance
AimAltitude = Annotated[float, Range(-20, 90, "°", "0 is level with the eye.")]


class Bench(Frozen):
    """Everything the bench needs to draw its path; ``mount_is_assumed`` where none is named."""

    evening_date: date
    now_utc: datetime
    site: Site
    telescope: Telescope
    mount: Mount
    mount_is_assumed: bool
    diagonal: Diagonal | None
    finders: list[Finder]
    eyepieces: list[Eyepiece]
    people: list[Observer]
    steps: list[Step]
    mishaps: list[MishapChoice]
    ring: SunRing
    weather: Weather
    highest_altitude_deg: float
    longest_field_deg: float
    longest_eyepiece_id: int | None


@dataclass(frozen=True)
class Setting:
    """What every step is computed from: the evening's place, moment, telescope and its parts."""

    db: sqlite3.Connection
    site: Site
    night: Night
    now_utc: datetime
    telescope: Telescope
    mount: Mount | None
    diagonal: Diagonal | None

    @property
    def known_mount(self) -> Mount:
        return self.mount or UNNAMED_MOUNT

    def readings(self) -> list[SetupReading]:
        return readings_of(self.db, self.night.date, self.telescope.id or 0)

    def steps(self) -> list[Step]:
        return make_steps(self.known_mount, self.readings())

    def finders(self) -> list[Finder]:
        return [
            one for one in list_items(self.db, FINDERS) if one.telescope_id == self.telescope.id
        ]

    def ladder(self) -> Ladder:
        choice = get_choice(self.db)
        return ladders_of(self.db, [self.telescope], choice, Ways())[0]

    def longest_field_deg(self) -> float:
        rungs = self.ladder().rungs
        return max((rung.true_field_deg for rung in rungs), default=1.0)


def find_setting(db: Db, clock: TheClock) -> Setting | None:
    """Return what to set up tonight, or None without a place or telescope."""
    choice, now_utc = get_choice(db), clock.now_utc()
    site, telescope = chosen_site(db, choice), chosen_telescope(db, choice)
    if site is None or telescope is None:
        return None
    return Setting(
        db=db,
        site=site,
        night=make_night(site, choice.date or evening_date(site, now_utc)),
        now_utc=now_utc,
        telescope=telescope,
        mount=find_item(db, MOUNTS, telescope.mount_id),
        diagonal=find_item(db, DIAGONALS, telescope.diagonal_id),
    )


def the_setting(found: Annotated[Setting | None, Depends(find_setting)]) -> Setting:
    """Return what to set up tonight; raises ``OutOfRange`` without a place or telescope."""
    if found is None:
        cure = "Put a telescope on the bench and choose a place first."
        raise OutOfRange("evening", "(nothing)", "a telescope and a place", cure)
    return found


Here = Annotated[Setting, Depends(the_setting)]


def record(here: Setting, step: StepName, advice: Advice, inputs: BaseModel) -> None:
    """Store what a step was told and answered, at this moment of the evening."""
    reading = SetupReading(
        evening_date=here.night.date,
        telescope_id=here.telescope.id or 0,
        step=step,
        recorded_at_utc=here.now_utc,
        words=advice.noted(),
        is_good=advice.holds(),
        figures=advice.figures(),
        inputs=inputs.model_dump(mode="json"),
    )
    record_reading(here.db, reading)


def kept(here: Setting, step: StepName, advice: A, inputs: BaseModel, recorded: bool) -> A:
    """Return an advice, stored as well where that was asked."""
    if recorded:
        record(here, step, advice, inputs)
    return advice


@router.get("")
def get_bench(here: Annotated[Setting | None, Depends(find_setting)]) -> Bench | None:
    """Return the bench for tonight's telescope; null without a place or telescope."""
    return None if here is None else make_bench(here)


def make_bench(here: Setting) -> Bench:
    """Return the bench as it stands."""
    rungs = [rung for rung in here.ladder().rungs if not rung.amplifier_ids]
    longest = max(rungs, key=lambda rung: rung.true_field_deg, default=None)
    fitting = {rung.eyepiece_id for rung in rungs}
    places = places_of_interest(here.site, here.night, here.now_utc, MOST_TARGETS)
    return Bench(
        evening_date=here.night.date,
        now_utc=here.now_utc,
        site=here.site,
        telescope=here.telescope,
        mount=here.known_mount,
        mount_is_assumed=here.mount is None,
        diagonal=here.diagonal,
        finders=here.finders(),
        eyepieces=[one for one in list_items(here.db, EYEPIECES) if one.id in fitting],
        people=list_items(here.db, OBSERVERS),
        steps=here.steps(),
        mishaps=mishaps_of(here.known_mount),
        ring=sun_ring(here.site, here.now_utc),
        weather=simulated_weather(here.site, here.now_utc),
        highest_altitude_deg=max(round(one.altitude_deg) for one in places),
        longest_field_deg=1.0 if longest is None else longest.true_field_deg,
        longest_eyepiece_id=None if longest is None else longest.eyepiece_id,
    )


@router.post("/stand")
def ask_stand(given: StandInput, here: Here, recorded: bool = False) -> StandAdvice:
    """Return eyepiece heights, pivot and seats for the people present."""
    present = list_items(here.db, OBSERVERS)
    if given.people_ids is not None:
        present = [one for one in present if one.id in given.people_ids]
    return kept(
        here,
        "stand",
        advise_stand(given, here.telescope, here.known_mount, here.diagonal, present),
        given,
        recorded,
    )


@router.post("/level")
def ask_level(given: LevelInput, here: Here, recorded: bool = False) -> LevelAdvice:
    """Return the next foot to raise."""
    return kept(here, "level", advise_level(given, here.known_mount), given, recorded)


@router.post("/balance")
def ask_balance(given: BalanceInput, here: Here, recorded: bool = False) -> BalanceAdvice:
    """Return how far to slide the tube."""
    return kept(
        here, "balance", advise_balance(given, here.telescope, here.known_mount), given, recorded
    )


@router.get("/sun")
def get_sun_ring(here: Here, altitude_deg: AimAltitude = 0.0) -> SunRing:
    """Return the Sun's track and the bearings that stay safe."""
    return sun_ring(here.site, here.now_utc, altitude_deg)


@router.post("/landmark")
def ask_landmark(landmark: Landmark, here: Here, recorded: bool = False) -> LandmarkCheck:
    """Return whether a landmark is safe for the whole job; recorded only when it is."""
    check = check_landmark(here.site, landmark, here.now_utc)
    if recorded:
        require_safe(check)
        record(here, "sun", check, landmark)
    return check


@router.post("/finder")
def ask_finder(given: FinderInput, here: Here, recorded: bool = False) -> FinderAdvice:
    """Return which screw to turn; refused while the target stands too near the Sun."""
    finder = get_item(here.db, FINDERS, given.finder_id)
    check = require_safe(_sun_check(given, here))
    return kept(
        here,
        "finder",
        advise_finder(given, finder, here.longest_field_deg(), check),
        given,
        recorded,
    )


def _sun_check(given: FinderInput, here: Setting) -> LandmarkCheck:
    if given.on == "star":
        return check_stars(here.site, here.now_utc, STAR_JOB_MINUTES)
    if given.on == "moon":
        moon = moon_landmark(here.site, here.now_utc, STAR_JOB_MINUTES)
        return check_landmark(here.site, moon, here.now_utc)
    if given.landmark is None:
        cure = "Give its bearing, altitude and distance."
        raise OutOfRange("landmark", "(nothing)", "a landmark to align on", cure)
    return check_landmark(here.site, given.landmark, here.now_utc)


@router.get("/north")
def get_north(here: Here) -> NorthBoard:
    """Return every way to north at this place and minute."""
    return north_board(here.site, here.now_utc, here.known_mount)


@router.post("/north")
def ask_north(given: NorthInput, here: Here, recorded: bool = False) -> NorthAdvice:
    """Return how far off north is, and what to turn."""
    advice = advise_north(given, here.site, here.known_mount, here.now_utc)
    return kept(here, "north", advice, given, recorded)


@router.post("/focus")
def ask_focus(given: FocusInput, here: Here, recorded: bool = False) -> FocusAdvice:
    """Return which way to focus, and the shifts for people and for the night."""
    eyepiece = get_item(here.db, EYEPIECES, given.eyepiece_id)
    return kept(
        here,
        "focus",
        advise_focus(given, here.telescope, eyepiece, list_items(here.db, OBSERVERS)),
        given,
        recorded,
    )


@router.post("/cool")
def ask_cooling(given: CoolInput, here: Here, recorded: bool = False) -> CoolAdvice:
    """Return when the optics are ready and how near dew is."""
    return kept(here, "cool", advise_cooling(given, here.telescope, here.now_utc), given, recorded)


@router.get("/budget")
def get_budget(here: Here, rung: str | None = None) -> Budget | None:
    """Return minutes in the field for tonight's targets; null without a rung."""
    rungs = here.ladder().rungs
    if not rungs:
        return None
    places = places_of_interest(here.site, here.night, here.now_utc, MOST_TARGETS)
    readings = budget_readings(here.readings())
    sky = paths_of(here.site, places, looking_moment(here.night, here.now_utc))
    return make_budget(
        here.known_mount.traits.drive, readings, places, rungs, here.site.latitude_deg, rung, sky
    )


@router.post("/steps/{step}/done")
def mark_done(step: StepName, here: Here) -> Bench:
    """Record a step that has no reading of its own as done."""
    record(here, require_word_enough(step), Advice.of_words("Done."), Frozen())
    return make_bench(here)


@router.post("/steps/{step}/reopen")
def reopen(step: StepName, here: Here) -> Bench:
    """Open a step again; what rests on it is spoiled with it."""
    steps = [step, *resting_on(step)]
    spoil(here.db, here.readings(), steps, here.now_utc, "reopened by hand")
    return make_bench(here)


@router.post("/mishaps/{mishap}")
def note_mishap(mishap: Mishap, here: Here) -> Bench:
    """Note that something happened; the steps it spoils are open again."""
    words, steps = MISHAPS[mishap]
    spoil(here.db, here.readings(), steps, here.now_utc, words)
    return make_bench(here)


@router.get("/card.pdf", response_class=Response)
def get_card(here: Here) -> Response:
    """Return the one-page set-up card of tonight's telescope."""
    where = f"{here.site.name}, {here.night.date.isoformat()}"
    north = north_board(here.site, here.now_utc, here.known_mount)
    card = make_card(
        here.telescope, here.known_mount, here.finders(), here.ladder(), here.steps(), north, where
    )
    headers = {"Content-Disposition": 'attachment; filename="jade-perch-setup.pdf"'}
    return Response(write_setup_card(card), headers=headers, media_type="application/pdf")
