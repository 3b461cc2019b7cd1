"""Station setup: the bench, step by step; every advice can be recorded into the evening."""

import sqlite3
from dataclasses import dataclass, replace
from typing import Annotated, TypeVar

from fastapi import Depends, Response
from pydantic import BaseModel

from jade_perch.api.dependencies import Db, TheCatalogue, TheDesk, TheHub, TheReadyDesk
from jade_perch.api.downloads import download
from jade_perch.api.guard import TheGuard
from jade_perch.api.hours import Hours, TheHours
from jade_perch.api.items import add_item_routes
from jade_perch.api.stations import station
from jade_perch.core.bench.advice import Advice, require_practice
from jade_perch.core.bench.assemble import (
    AssembleAdvice,
    AssembleInput,
    advise_assembly,
    parts_of,
)
from jade_perch.core.bench.balance import BalanceAdvice, BalanceInput, advise_balance
from jade_perch.core.bench.budget import Budget
from jade_perch.core.bench.cooling import CoolAdvice, CoolInput, advise_cooling
from jade_perch.core.bench.finder import FinderAdvice, FinderInput, advise_finder
from jade_perch.core.bench.focus import FocusAdvice, FocusInput, advise_focus
from jade_perch.core.bench.landmark import Aim, Height, HeightWord, Landmark, heights_of
from jade_perch.core.bench.level import LevelAdvice, LevelInput, advise_level
from jade_perch.core.bench.loop import Try
from jade_perch.core.bench.north import (
    NorthAdvice,
    NorthBoard,
    NorthInput,
    advise_north,
    north_board,
)
from jade_perch.core.bench.seat import StandAdvice, StandInput, advise_stand
from jade_perch.core.bench.sunguard import LandmarkCheck
from jade_perch.core.bench.sunring import SunRing, sun_ring
from jade_perch.core.evening.bench import Bench, budget_of, make_bench
from jade_perch.core.evening.card import make_card
from jade_perch.core.evening.desk import ReadyDesk, ready
from jade_perch.core.evening.onway import parts_done, since_over
from jade_perch.core.evening.rejudge import steps_of
from jade_perch.core.evening.setup import (
    MISHAPS,
    Mishap,
    SetupReading,
    StepName,
    resting_on,
    word_given,
)
from jade_perch.core.fields import Frozen, Label
from jade_perch.exchange.setup_card_pdf import write_setup_card
from jade_perch.store.items import get_item
from jade_perch.store.kit import EYEPIECES, FINDERS
from jade_perch.store.setup import (
    PARFOCALS,
    end_session,
    end_way,
    mark_way,
    marks_of,
    readings_of,
    record_step,
    rounds_about,
    spoil,
)

router = station("/setup", "setup")
add_item_routes(router, PARFOCALS, "parfocals")
A = TypeVar("A", bound=Advice)


@dataclass(frozen=True)
class Recording:
    """Whether an answer is recorded, whether as practice, and whether what it says was turned."""

    recorded: bool = False
    as_practice: bool = False
    turned: bool = False


AskedRecording = Annotated[Recording, Depends()]


def kept(
    db: sqlite3.Connection,
    desk: ReadyDesk,
    step: StepName,
    advice: A,
    given: BaseModel,
    recording: Recording,
) -> A:
    """Return an advice, stored as well where that was asked.

    What rests on something simulated is stored as practice or not at all.
    """
    if recording.recorded:
        require_practice(advice, as_practice=recording.as_practice)
        record_step(db, desk, step, advice, given)
    return advice


def turned(
    db: sqlite3.Connection,
    desk: ReadyDesk,
    step: StepName,
    subject: str,
    advice: LevelAdvice | FinderAdvice,
    recording: Recording,
) -> None:
    """Keep a round of a loop where its turn was made, so that the next reading teaches by it."""
    if recording.turned and not recording.recorded:
        mark_way(db, desk, step, {subject: advice.round_})


def _readings(db: sqlite3.Connection, desk: ReadyDesk) -> list[SetupReading]:
    return readings_of(db, desk.evening.id, desk.telescope.id)


def _bench(db: sqlite3.Connection, desk: ReadyDesk, catalogue: TheCatalogue, hours: Hours) -> Bench:
    ticked = parts_done(marks_of(db, desk, "assemble"))
    return make_bench(desk, _readings(db, desk), ticked, hours.air_now(desk), catalogue)


@router.get("")
def get_bench(db: Db, desk: TheDesk, catalogue: TheCatalogue, hours: TheHours) -> Bench | None:
    """Return the bench for tonight's telescope; null without a place or telescope."""
    found = ready(desk)
    return None if found is None else _bench(db, found, catalogue, hours)


@router.post("/assemble")
def ask_assembly(
    given: AssembleInput, db: Db, desk: TheReadyDesk, recording: AskedRecording
) -> AssembleAdvice:
    """Return the next hand movement; with ``turned`` those named are ticked, or taken back."""
    marks = marks_of(db, desk, "assemble")
    parts = parts_of(desk.telescope, desk.known_mount, desk.diagonal, desk.finders)
    ticked = parts_done(marks)
    advice = advise_assembly(given, parts, ticked)
    if recording.turned or recording.recorded:
        done = [one.part for one in advice.parts if one.is_done]
        mark_way(db, desk, "assemble", {part: Try() for part in done if part not in ticked})
        end_way(db, [one for one in marks if one.subject not in done])
    return kept(db, desk, "assemble", advice, given, recording)


@router.post("/stand")
def ask_stand(
    given: StandInput, db: Db, desk: TheReadyDesk, recording: AskedRecording
) -> StandAdvice:
    """Return eyepiece heights, pivot and seats for the people present."""
    people = desk.people if given.people_ids is None else desk.present(given.people_ids)
    glass = (desk.telescope, desk.known_mount, desk.diagonal)
    advice = advise_stand(given, *glass, people, desk.units)
    return kept(db, desk, "stand", advice, given, recording)


@router.post("/level")
def ask_level(
    given: LevelInput, db: Db, desk: TheReadyDesk, hub: TheHub, recording: AskedRecording
) -> LevelAdvice:
    """Return the next foot to raise."""
    is_simulated = given.is_live and hub.is_simulated("level")
    feet = f"{desk.known_mount.feet} {desk.known_mount.levelling}"
    subject = f"simulated {feet}" if is_simulated else feet
    rounds = since_over(rounds_about(db, desk, "level", subject))
    advice = advise_level(given, desk.known_mount, rounds, desk.units)
    if is_simulated:
        advice = advice.resting_on_simulated("level")
    turned(db, desk, "level", subject, advice, recording)
    return kept(db, desk, "level", advice, given, recording)


@router.post("/balance")
def ask_balance(
    given: BalanceInput, db: Db, desk: TheReadyDesk, sun: TheGuard, recording: AskedRecording
) -> BalanceAdvice:
    """Return how far to slide the tube; refused by day without its caps."""
    check = sun.require(given)
    advice = advise_balance(given, desk.telescope, desk.known_mount, check, desk.units)
    return kept(db, desk, "balance", advice, given, recording)


@router.get("/sun")
def get_sun_ring(
    desk: TheReadyDesk, altitude_deg: Height | None = None, height: HeightWord | None = None
) -> SunRing:
    """Return the Sun's track and the bearings that stay safe."""
    aim = Aim(at="landmark", altitude_deg=altitude_deg, height=height)
    return sun_ring(desk.place, desk.now, heights_of(aim))


@router.post("/landmark")
def ask_landmark(
    landmark: Landmark, db: Db, desk: TheReadyDesk, sun: TheGuard, recording: AskedRecording
) -> LandmarkCheck:
    """Return whether a landmark is safe for the whole job; recorded only when it is."""
    check = sun.require(landmark) if recording.recorded else sun.look(landmark)
    return kept(db, desk, "sun", check, landmark, recording)


@router.post("/finder")
def ask_finder(
    given: FinderInput, db: Db, desk: TheReadyDesk, sun: TheGuard, recording: AskedRecording
) -> FinderAdvice:
    """Return which screw to turn; refused while the target stands too near the Sun."""
    finder = desk.require_finder(get_item(db, FINDERS, given.finder_id))
    check = sun.require(given)
    subject = f"finder {finder.id}"
    rounds = rounds_about(db, desk, "finder", subject)
    advice = advise_finder(given, finder, desk.longest_field_deg, check, rounds, desk.units)
    turned(db, desk, "finder", subject, advice, recording)
    return kept(db, desk, "finder", advice, given, recording)


@router.get("/north")
def get_north(desk: TheReadyDesk) -> NorthBoard:
    """Return every way to north at this place and minute."""
    return north_board(desk.place, desk.moment_utc, desk.known_mount)


@router.post("/north")
def ask_north(
    given: NorthInput,
    db: Db,
    desk: TheReadyDesk,
    sun: TheGuard,
    hub: TheHub,
    recording: AskedRecording,
) -> NorthAdvice:
    """Return how far off north is, and what to turn; refused while it would aim near the Sun."""
    check = sun.require(given)
    advice = advise_north(given, desk.place, desk.known_mount, desk.moment_utc, check)
    if given.is_live and hub.is_simulated("compass"):
        advice = advice.resting_on_simulated("compass")
    return kept(db, desk, "north", advice, given, recording)


@router.post("/focus")
def ask_focus(
    given: FocusInput, db: Db, desk: TheReadyDesk, sun: TheGuard, recording: AskedRecording
) -> FocusAdvice:
    """Return which way to focus, and the shifts; refused while it would aim near the Sun."""
    eyepiece = get_item(db, EYEPIECES, given.eyepiece_id)
    check = sun.require(given)
    advice = advise_focus(given, desk.telescope, eyepiece, desk.people, check, desk.units)
    return kept(db, desk, "focus", advice, given, recording)


@router.post("/cool")
def ask_cooling(
    given: CoolInput, db: Db, desk: TheReadyDesk, hours: TheHours, recording: AskedRecording
) -> CoolAdvice:
    """Return when the optics are ready and how near dew is."""
    air = hours.air_now(desk)
    advice = advise_cooling(given, desk.telescope, desk.moment_utc, air, desk.units)
    return kept(db, desk, "cool", advice, given, recording)


@router.get("/budget")
def get_budget(
    db: Db, desk: TheReadyDesk, catalogue: TheCatalogue, rung: Label | None = None
) -> Budget | None:
    """Return minutes in the field for tonight's targets; null without a rung."""
    return budget_of(desk, _readings(db, desk), catalogue, rung)


@router.post("/steps/{step}/done")
def mark_done(
    step: StepName,
    db: Db,
    desk: TheReadyDesk,
    catalogue: TheCatalogue,
    hours: TheHours,
    as_practice: bool = False,
) -> Bench:
    """Record a step that has no reading of its own as done."""
    readings = _readings(db, desk)
    word = word_given(step, desk.known_mount, readings, as_practice=as_practice)
    evening = record_step(db, desk, step, word, Frozen())
    return _bench(db, replace(desk, evening=evening), catalogue, hours)


@router.post("/steps/{step}/reopen")
def reopen(
    step: StepName, db: Db, desk: TheReadyDesk, catalogue: TheCatalogue, hours: TheHours
) -> Bench:
    """Open a step again; what rests on it is spoiled with it."""
    steps = [step, *resting_on(step)]
    spoil(db, desk, steps, "reopened by hand")
    return _bench(db, desk, catalogue, hours)


@router.post("/mishaps/{mishap}")
def note_mishap(
    mishap: Mishap, db: Db, desk: TheReadyDesk, catalogue: TheCatalogue, hours: TheHours
) -> Bench:
    """Note that something happened; the steps it spoils are open again, a solar session ends."""
    traits = MISHAPS[mishap]
    end_session(db, desk.moment_utc)
    spoil(db, desk, traits.steps, traits.words, traits.parts)
    return _bench(db, desk, catalogue, hours)


@router.get("/card.pdf", response_class=Response)
def get_card(db: Db, desk: TheReadyDesk) -> Response:
    """Return the one-page set-up card of tonight's telescope."""
    card = make_card(desk, steps_of(desk, _readings(db, desk)))
    return download(write_setup_card(card), "application/pdf", "jade-perch-setup.pdf")
