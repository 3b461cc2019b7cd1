"""Station journal: what was seen."""

from typing import Any

from fastapi import APIRouter, Response
from starlette.exceptions import HTTPException

from jade_perch.api.dependencies import Db, FileBytes
from jade_perch.api.items import item_router
from jade_perch.core.fields import Frozen
from jade_perch.exchange.pictures import read_picture
from jade_perch.store.journal import OBSERVATIONS, add_once, add_picture, find_picture

router = APIRouter(prefix="/journal", tags=["journal"])
router.include_router(item_router(OBSERVATIONS, "observations", add=add_once))
PICTURE_BODY: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string"}}},
    }
}


class KeptPicture(Frozen):
    """A picture that is kept: its name, and how large it is in pixels."""

    name: str
    width: int
    height: int


@router.post("/pictures", status_code=201, openapi_extra=PICTURE_BODY)
def keep_picture(data: FileBytes, db: Db) -> KeptPicture:
    """Keep a picture file: judged by its content, nothing kept but the picture itself."""
    picture = read_picture(data)
    add_picture(db, picture)
    return KeptPicture(name=picture.name, width=picture.width, height=picture.height)


@router.get("/pictures/{name}", response_class=Response)
def get_picture(name: str, db: Db) -> Response:
    """Return a picture that is kept."""
    found = find_picture(db, name)
    if found is None:
        raise HTTPException(404, f"There is no picture {name[:40]!r}.")
    media_type, content = found
    headers = {"Content-Disposition": "inline", "Cache-Control": "private, max-age=86400"}
    return Response(content, media_type=media_type, headers=headers)
