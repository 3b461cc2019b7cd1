"""Station journal: what was seen."""

from fastapi import APIRouter

from jade_perch.api.items import item_router
from jade_perch.store.journal import OBSERVATIONS

router = APIRouter(prefix="/journal", tags=["journal"])
router.include_router(item_router(OBSERVATIONS, "observations"))
