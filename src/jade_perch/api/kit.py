"""Station kit: what is owned, in and out."""

from typing import Annotated

from fastapi import APIRouter, Depends, Request
from fastapi.responses import PlainTextResponse

from jade_perch.api.dependencies import Db
from jade_perch.api.items import item_router
from jade_perch.demo.loader import load_demo_kit
from jade_perch.exchange.kit_csv import ImportReport, compare, read_kit, write_kit
from jade_perch.store.kit import AMPLIFIERS, EYEPIECES, TELESCOPES, import_items, whole_kit

router = APIRouter(prefix="/kit", tags=["kit"])
router.include_router(item_router(TELESCOPES, "telescopes"))
router.include_router(item_router(EYEPIECES, "eyepieces"))
router.include_router(item_router(AMPLIFIERS, "amplifiers"))

CSV_BODY = {
    "requestBody": {
        "required": True,
        "content": {"text/csv": {"schema": {"type": "string"}}},
    }
}


async def csv_bytes(request: Request) -> bytes:
    """Return the bytes of the request as sent."""
    return await request.body()


CsvBytes = Annotated[bytes, Depends(csv_bytes)]


@router.get("/export.csv", response_class=PlainTextResponse)
def export_kit(db: Db) -> PlainTextResponse:
    """Return the whole kit as a CSV file."""
    headers = {"Content-Disposition": 'attachment; filename="jade-perch-kit.csv"'}
    return PlainTextResponse(write_kit(whole_kit(db)), headers=headers, media_type="text/csv")


@router.post("/import-preview", openapi_extra=CSV_BODY)
def preview_import(data: CsvBytes, db: Db) -> ImportReport:
    """Return what importing a CSV file would do, row by row; nothing is stored."""
    return compare(read_kit(data), whole_kit(db))


@router.post("/import", openapi_extra=CSV_BODY)
def import_kit(data: CsvBytes, db: Db) -> ImportReport:
    """Import a CSV file whole, or nothing of it when any row is refused."""
    parsed = read_kit(data)
    report = compare(parsed, whole_kit(db))
    if report.refused:
        return report
    import_items(db, [one.model for one in parsed if one.model is not None])
    return report.model_copy(update={"applied": True})


@router.post("/demo", status_code=204)
def load_demo(db: Db) -> None:
    """Put the demo kit and its places on an empty bench; what is there already is left alone."""
    load_demo_kit(db)
