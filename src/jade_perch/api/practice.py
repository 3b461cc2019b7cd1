"""Station practice: the wall of drills, a round of one, and its moves."""

from secrets import randbelow

from jade_perch.api.dependencies import Db, TheClock, TheDesk
from jade_perch.api.stations import station
from jade_perch.core.fields import Id
from jade_perch.core.practice.drill import MOST_SEED
from jade_perch.core.practice.run import Begin, Made, RunShown, begun, shown
from jade_perch.core.practice.symptoms import TREE, SymptomTree
from jade_perch.core.practice.wall import Wall, wall_of
from jade_perch.store.items import get_item
from jade_perch.store.practice import RUNS, begin_run, make_move, rounds_done, sun_is_passed

router = station("/practice", "practice")


@router.get("")
def get_wall(db: Db, desk: TheDesk, clock: TheClock) -> Wall:
    """Return the drills, and how far tonight's observer has come with tonight's telescope."""
    passed = sun_is_passed(db, desk, clock.real_utc())
    return wall_of(desk, rounds_done(db, desk), sun_is_passed=passed)


@router.get("/symptoms")
def get_symptoms() -> SymptomTree:
    """Return the whole symptom finder, so that a page can ask on while nobody answers."""
    return TREE


@router.post("/runs", status_code=201)
def begin(given: Begin, db: Db, desk: TheDesk, clock: TheClock) -> RunShown:
    """Begin a round of a drill; one of the same that was not ended is given up."""
    seed = randbelow(MOST_SEED) if given.seed is None else given.seed
    return shown(begin_run(db, begun(given, seed, desk, clock.real_utc())))


@router.get("/runs/{run_id}")
def get_run(run_id: Id, db: Db) -> RunShown:
    """Return a round as it stands."""
    return shown(get_item(db, RUNS, run_id))


@router.post("/runs/{run_id}/moves")
def move(run_id: Id, made: Made, db: Db, clock: TheClock) -> RunShown:
    """Make one move; told again it is made once.  Refused where another window moved first."""
    return shown(make_move(db, run_id, made, clock.real_utc()))
