"""Station plan: what of Moon and planets is up tonight."""

from fastapi import APIRouter

from jade_perch.api.dependencies import Db, TheClock
from jade_perch.api.powers import ladders_of
from jade_perch.core.evening.tonight import Tonight, make_tonight
from jade_perch.core.sky.night import evening_date, make_night
from jade_perch.store.evening import chosen_site, chosen_telescope, get_choice

router = APIRouter(prefix="/plan", tags=["plan"])


@router.get("/tonight")
def get_tonight(db: Db, clock: TheClock) -> Tonight | None:
    """Return tonight's list for the chosen place and telescope; null without a place."""
    choice, now_utc = get_choice(db), clock.now_utc()
    site, telescope = chosen_site(db, choice), chosen_telescope(db, choice)
    if site is None:
        return None
    night = make_night(site, choice.date or evening_date(site, now_utc))
    ladder = ladders_of(db, [telescope], choice)[0] if telescope else None
    return make_tonight(site, night, now_utc, ladder, choice.school)
