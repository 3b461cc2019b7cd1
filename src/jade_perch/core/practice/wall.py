"""The wall of drills: what each trains, and how far somebody has come with a telescope."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from jade_perch.core.evening.desk import Desk
from jade_perch.core.fields import Choice, Frozen, choices
from jade_perch.core.practice.drill import DrillName, counted
from jade_perch.core.practice.glass_drill import has_glasses
from jade_perch.core.practice.run import DRILLS, NOBODY, Drill
from jade_perch.core.safety import sun_at

# the five lessons of a first telescope, in the order of the work
FIRST_PATH: tuple[DrillName, ...] = ("glass", "finder", "focus", "which_way", "sun")
NO_TELESCOPE = "Put your first telescope on the bench; the drill is made with it."
FEW_GLASSES = "Put your eyepieces into the case: the drill wants two or more to choose among."
SUN_PASSED = "Passed: a solar session may be opened."
SUN_WANTED = "Not passed within a year: no solar session is opened before."


@dataclass(frozen=True, slots=True)
class Rounds:
    """Rounds of one drill, of one observer with one telescope: how many ended, passed, faultless.

    ``open_id`` is the latest one that was begun and not ended.
    """

    ended: int = 0
    passed: int = 0
    clean: int = 0
    open_id: int | None = None


class Card(Frozen):
    """One drill on the wall: its words, how far it has come, and the round to go on with.

    ``blocked`` says what is missing before it can begin; empty where nothing is.
    """

    drill: DrillName
    title: str
    words: str
    progress: str
    is_passed: bool
    is_wanted: bool
    ways: list[Choice]
    blocked: str
    open_id: int | None


class PathLesson(Frozen):
    """One lesson of a first telescope: which drill, and whether it was passed."""

    drill: DrillName
    title: str
    is_passed: bool


class Path(Frozen):
    """The five lessons of a telescope marked new, in the order of the work.

    ``next_drill`` is the first that waits; None once all are passed and the mark may go.
    """

    telescope_id: int
    lessons: list[PathLesson]
    next_drill: DrillName | None
    words: str


class Wall(Frozen):
    """Whose wall it is, and its cards in the order of the work.

    ``sun_words`` say what the real telescope does meanwhile, while the Sun is up; ``path`` is there
    for a telescope marked new.
    """

    observer_name: str
    telescope_name: str | None
    sun_words: str
    path: Path | None
    cards: list[Card]


def wall_of(desk: Desk, rounds: Mapping[str, Rounds], *, sun_is_passed: bool) -> Wall:
    """Return the wall of tonight's observer and telescope.

    ``rounds`` are what was done, by drill; ``sun_is_passed`` that the Sun drill still counts.

    Source: rules.md#practice.
    """
    cards = [_card(desk, name, rounds.get(name, Rounds()), sun_is_passed) for name in DRILLS]
    return Wall(
        observer_name=NOBODY if desk.observer is None else desk.observer.name,
        telescope_name=None if desk.telescope is None else desk.telescope.name,
        sun_words=_sun_words(desk),
        path=_path(desk, cards),
        cards=cards,
    )


def _path(desk: Desk, cards: Sequence[Card]) -> Path | None:
    """Return the lessons of a first telescope, where this one is marked new."""
    telescope = desk.telescope
    if telescope is None or not telescope.is_new or telescope.id is None:
        return None
    by_name = {one.drill: one for one in cards}
    lessons = [
        PathLesson(drill=name, title=by_name[name].title, is_passed=by_name[name].is_passed)
        for name in FIRST_PATH
    ]
    waiting = next((one.drill for one in lessons if not one.is_passed), None)
    done = sum(one.is_passed for one in lessons)
    words = f"First telescope: {done} of {counted(len(lessons), 'short lesson')} done."
    if waiting is None:
        words = f"All five lessons are done: {telescope.name} need not be marked new any more."
    return Path(telescope_id=telescope.id, lessons=lessons, next_drill=waiting, words=words)


def _sun_words(desk: Desk) -> str:
    if desk.place is not None and sun_at(desk.place, desk.now).is_up:
        return "The Sun is up: the real telescope keeps its caps on meanwhile."
    return ""


def _card(desk: Desk, name: DrillName, done: Rounds, sun_is_passed: bool) -> Card:
    drill = DRILLS[name]
    is_passed = sun_is_passed if name == "sun" else done.passed > 0
    progress = _progress(done)
    if name == "sun":
        progress = SUN_PASSED if sun_is_passed else SUN_WANTED
    return Card(
        drill=name,
        title=drill.title,
        words=drill.words,
        progress=progress,
        is_passed=is_passed,
        is_wanted=name == "sun" and not sun_is_passed,
        ways=choices(drill.ways),
        blocked=_blocked(desk, drill),
        open_id=done.open_id,
    )


def _blocked(desk: Desk, drill: Drill) -> str:
    """Return what the kit wants before a drill can begin."""
    if drill.wants == "nothing":
        return ""
    if desk.telescope is None:
        return NO_TELESCOPE
    return FEW_GLASSES if drill.wants == "glasses" and not has_glasses(desk) else ""


def _progress(done: Rounds) -> str:
    if not done.ended:
        return "Not tried yet." if done.open_id is None else "Begun."
    clean = f", {done.clean} without a remark" if done.clean else ""
    return f"{counted(done.ended, 'round')}, {done.passed} passed{clean}."
