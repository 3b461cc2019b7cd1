"""Station plan: what is honestly worth looking at tonight."""

from fastapi import APIRouter

from jade_perch.api.dependencies import Db, TheCatalogue, TheDesk
from jade_perch.core.evening.prospects import ListName, Prospects, make_prospects
from jade_perch.core.evening.tonight import make_tonight
from jade_perch.core.fields import UtcTime
from jade_perch.store.journal import noted_targets

router = APIRouter(prefix="/plan", tags=["plan"])


@router.get("/tonight")
def get_tonight(
    db: Db,
    desk: TheDesk,
    catalogue: TheCatalogue,
    listed: ListName | None = None,
    at_utc: UtcTime | None = None,
) -> Prospects | None:
    """Return tonight's list for the chosen place and telescope; null without a place.

    Places hold for ``at_utc``, else for now; a list is chosen by name, else by kit and sky.
    """
    if desk.place is None or desk.night is None:
        return None
    ladder = desk.ladder_of(desk.telescope, desk.diagonal) if desk.telescope else None
    at = (desk.place, desk.night, desk.now, ladder, desk.choice.school, at_utc)
    tonight = make_tonight(catalogue.bodies_only(), *at)
    return make_prospects(desk, catalogue, tonight, ladder, noted_targets(db), listed)
