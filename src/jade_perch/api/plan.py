"""Station plan: what of Moon and planets is up tonight."""

from fastapi import APIRouter

from jade_perch.api.dependencies import TheCatalogue, TheDesk
from jade_perch.core.evening.tonight import Tonight, make_tonight

router = APIRouter(prefix="/plan", tags=["plan"])


@router.get("/tonight")
def get_tonight(desk: TheDesk, catalogue: TheCatalogue) -> Tonight | None:
    """Return tonight's list for the chosen place and telescope; null without a place."""
    if desk.place is None or desk.night is None:
        return None
    ladder = desk.ladder_of(desk.telescope, desk.diagonal) if desk.telescope else None
    bodies = catalogue.bodies_only()
    at = (desk.place, desk.night, desk.now)
    return make_tonight(bodies, *at, ladder, desk.choice.school)
