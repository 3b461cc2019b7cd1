"""A drill as it is begun, moved and kept: one table of drills, the same verbs for each."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import Field

from jade_perch.core.errors import JobError, OutOfRange
from jade_perch.core.evening.desk import Desk
from jade_perch.core.fields import Frozen, Id, Item, Label, Loaded, Name, Range, UtcTime
from jade_perch.core.practice.base import LevelMove, LevelScene, LevelState
from jade_perch.core.practice.drill import FEW_MOVES, MOST_MOVES, DrillName, Score, Seed
from jade_perch.core.practice.finder_drill import step_finder
from jade_perch.core.practice.finder_scene import (
    FinderScene,
    begin_finder,
    scene_of_finder,
    score_finder,
)
from jade_perch.core.practice.focus_drill import (
    FocusMove,
    FocusScene,
    FocusState,
    begin_focus,
    scene_of_focus,
    score_focus,
    step_focus,
)
from jade_perch.core.practice.glass_drill import (
    GlassMove,
    GlassScene,
    GlassState,
    begin_glass,
    scene_of_glass,
    score_glass,
    step_glass,
)
from jade_perch.core.practice.keep_drill import (
    USUAL_S,
    KeepMove,
    KeepScene,
    KeepState,
    begin_keep,
    scene_of_keep,
    score_keep,
    step_keep,
)
from jade_perch.core.practice.level_drill import (
    begin_level,
    scene_of_level,
    score_level,
    step_level,
)
from jade_perch.core.practice.pointing_drill import (
    PointingMove,
    PointingScene,
    PointingState,
    begin_pointing,
    scene_of_pointing,
    score_pointing,
    step_pointing,
)
from jade_perch.core.practice.sighted import FinderMove, FinderState
from jade_perch.core.practice.sun_drill import (
    SunAnswer,
    SunScene,
    SunState,
    begin_sun,
    scene_of_sun,
    score_sun,
    step_sun,
)
from jade_perch.core.practice.way_drill import (
    WayMove,
    WayScene,
    WayState,
    begin_way,
    scene_of_way,
    score_way,
    step_way,
)

NOBODY = "you"  # who practises where the kit names nobody
BY_DRILL = Field(discriminator="drill")
AnyMove = Annotated[
    FinderMove | LevelMove | FocusMove | GlassMove | WayMove | PointingMove | KeepMove | SunAnswer,
    BY_DRILL,
]
AnyState = Annotated[
    FinderState
    | LevelState
    | FocusState
    | GlassState
    | WayState
    | PointingState
    | KeepState
    | SunState,
    BY_DRILL,
]
AnyScene = Annotated[
    FinderScene
    | LevelScene
    | FocusScene
    | GlassScene
    | WayScene
    | PointingScene
    | KeepScene
    | SunScene,
    BY_DRILL,
]


@dataclass(frozen=True, slots=True)
class Drill:
    """One drill: what it is called and trains, and what begins, moves, shows and scores it.

    ``ways`` are the kinds of round one may choose among, each with its title; ``begin`` is told
    which.  A score is made of how a round stands and how it began.  ``wants`` is what a kit must
    have for it.
    """

    title: str
    words: str
    begin: Callable[[Desk, int, str], Any]
    step: Callable[[Any, Any], Any]
    scene: Callable[[Any], Any]
    score: Callable[[Any, Any], Score]
    wants: Literal["nothing", "telescope", "glasses"] = "telescope"
    ways: Mapping[str, str] = field(default_factory=dict)


DRILLS: dict[DrillName, Drill] = {
    "glass": Drill(
        title="Which glass",
        words="Start and top for a target and a night, and three sums by head.",
        begin=lambda desk, seed, _: begin_glass(desk, seed),
        step=step_glass,
        scene=scene_of_glass,
        score=lambda state, _: score_glass(state),
        wants="glasses",
    ),
    "finder": Drill(
        title="Align the finder",
        words="Landmark, main tube, clamp, screws, and a look back.",
        begin=lambda desk, seed, way: begin_finder(desk, seed, "night" if way else "day"),
        step=step_finder,
        scene=scene_of_finder,
        score=score_finder,
        ways={"": "By day", "night": "By night"},
    ),
    "level": Drill(
        title="Level the base",
        words="Feet one at a time, under a bubble that takes its time.",
        begin=lambda desk, seed, _: begin_level(desk.known_mount, seed, desk.units),
        step=step_level,
        scene=scene_of_level,
        score=lambda state, _: score_level(state),
        wants="nothing",
    ),
    "focus": Drill(
        title="Focus",
        words="Which way, how far, other eyes, and whether it is the focus at all.",
        begin=lambda desk, seed, _: begin_focus(desk, seed),
        step=step_focus,
        scene=scene_of_focus,
        score=lambda state, _: score_focus(state),
    ),
    "which_way": Drill(
        title="Which way",
        words="In a turned or mirrored view: west, the chart that fits, the push.",
        begin=lambda desk, seed, _: begin_way(desk, seed),
        step=step_way,
        scene=scene_of_way,
        score=lambda state, _: score_way(state),
    ),
    "pointing": Drill(
        title="Bring it in",
        words="A bright star into the longest eyepiece: clamps, tube, finder, field.",
        begin=lambda desk, seed, way: begin_pointing(desk, seed, float(way) if way else None),
        step=step_pointing,
        scene=scene_of_pointing,
        score=lambda state, _: score_pointing(state),
        ways={"": "Free", "180": "3 min", "60": "1 min"},
    ),
    "keep": Drill(
        title="Keep it",
        words="Hold a drifting target, by the right knob, at growing power.",
        begin=lambda desk, seed, way: begin_keep(desk, seed, float(way or USUAL_S)),
        step=step_keep,
        scene=scene_of_keep,
        score=lambda state, _: score_keep(state),
        ways={"": "5 min", "60": "1 min"},
    ),
    "sun": Drill(
        title="Never the Sun",
        words="Find the unsafe step. It opens the first solar session.",
        begin=lambda _desk, seed, _way: begin_sun(seed),
        step=step_sun,
        scene=scene_of_sun,
        score=lambda state, _: score_sun(state),
        wants="nothing",
    ),
}


class DrillRun(Item):
    """One round of a drill: whose, on which telescope, from which seed, and how it stands.

    Moving its ``state`` by its ``moves`` from its beginning gives the same to the last digit.
    Times are by the stopwatch, whatever clock the evening goes by.
    """

    drill: DrillName
    observer_id: Id | None = None
    observer_name: Name = NOBODY
    telescope_id: Id | None = None
    telescope_name: Name = NOBODY
    way: Label = ""
    seed: Seed
    begun_at_utc: UtcTime
    ended_at_utc: UtcTime | None = None
    is_passed: bool = False
    start: Annotated[AnyState, Loaded]
    state: Annotated[AnyState, Loaded]
    moves: Annotated[tuple[AnyMove, ...], FEW_MOVES, Loaded] = ()
    score: Annotated[Score | None, Loaded] = None


class Begin(Frozen):
    """The wish to begin a drill, in one of its ways; without a seed chance chooses one."""

    drill: DrillName
    way: Label = ""
    seed: Seed | None = None


class Made(Frozen):
    """One move of a round: how many were made before it, so that none is made twice."""

    number: Annotated[int, Range(0, MOST_MOVES - 1, "", "A round ends there: begin it anew.")]
    move: AnyMove


class RunShown(Frozen):
    """A round as a page draws it: the mentor's one line, what is seen, and the score at its end.

    ``whose`` says for whom, and with which telescope, it counts, ``lent`` what is lent for it.
    """

    id: int
    drill: DrillName
    title: str
    whose: str
    lent: str
    way: str
    number: int
    say: str
    at_s: float
    is_over: bool
    scene: AnyScene
    score: Score | None


class MovedMeanwhile(JobError):
    """Another window made a move first: what is seen here is not how the drill stands."""

    def __init__(self, made: int, number: int) -> None:
        super().__init__(
            f"Another window is at move {made} of this drill, this one at {number}. "
            "Look again, then go on."
        )


def begun(given: Begin, seed: int, desk: Desk, now_utc: datetime) -> DrillRun:
    """Return a round at its beginning, for tonight's observer and telescope.

    Raises ``OutOfRange`` for a way the drill does not know, or a kit it cannot be made with.

    Source: rules.md#practice.
    """
    drill = DRILLS[given.drill]
    if given.way and given.way not in drill.ways:
        allowed = ", ".join(f"'{one}'" for one in drill.ways) or "''"
        raise OutOfRange("way", given.way, allowed, "Choose one of these.")
    start = drill.begin(desk, seed, given.way)
    observer, telescope = desk.observer, desk.telescope
    return DrillRun(
        drill=given.drill,
        observer_id=None if observer is None else observer.id,
        observer_name=NOBODY if observer is None else observer.name,
        telescope_id=None if telescope is None else telescope.id,
        telescope_name=NOBODY if telescope is None else telescope.name,
        way=given.way,
        seed=seed,
        begun_at_utc=now_utc,
        start=start,
        state=start,
    )


def moved(run: DrillRun, made: Made, now_utc: datetime) -> DrillRun:
    """Return a round after one move; the same move told again changes nothing.

    Raises ``MovedMeanwhile`` where another window moved first, ``OutOfRange`` for a move the
    drill does not know, or into one that is over.

    Source: rules.md#practice.
    """
    drill, move = DRILLS[run.drill], made.move
    if move.drill != run.drill:
        raise OutOfRange("move.drill", move.drill, f"'{run.drill}'", "Make a move of this drill.")
    if made.number < len(run.moves) and run.moves[made.number] == move:
        return run
    if made.number != len(run.moves):
        raise MovedMeanwhile(len(run.moves), made.number)
    if run.ended_at_utc is not None:
        raise OutOfRange("number", made.number, "a drill that goes on", "Begin another round.")
    state = drill.step(run.state, move)
    update: dict[str, Any] = {"state": state, "moves": (*run.moves, move)}
    if state.is_over:
        score = drill.score(state, run.start)
        update |= {"ended_at_utc": now_utc, "is_passed": score.is_passed, "score": score}
    return run.model_copy(update=update)


def whose(run: DrillRun) -> str:
    """Return for whom a round counts, and with which telescope.  Source: rules.md#practice."""
    with_it = run.telescope_id is not None and run.drill != "sun"
    return f"{run.observer_name} · {run.telescope_name}" if with_it else run.observer_name


def shown(run: DrillRun) -> RunShown:
    """Return a round as a page draws it.  Source: rules.md#practice."""
    drill, state = DRILLS[run.drill], run.state
    return RunShown(
        id=run.id or 0,
        drill=run.drill,
        title=drill.title,
        whose=whose(run),
        lent="" if isinstance(state, SunState) else state.lent,
        way=run.way,
        number=len(run.moves),
        say=state.say,
        at_s=state.at_s,
        is_over=state.is_over,
        scene=drill.scene(state),
        score=run.score,
    )
