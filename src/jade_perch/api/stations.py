"""What the routes of every station have in common."""

from fastapi import APIRouter, Depends

from jade_perch.api.doors import right_type, whole_text


def station(path: str, tag: str) -> APIRouter:
    """Return the router of a station, or of a part of one, under ``/api`` and its own path.

    Its routes refuse contents of another type and halves of a character.  They stand in the
    application as they are: a router within a router is looked through twice with every request.
    """
    guards = [Depends(right_type), Depends(whole_text)]
    return APIRouter(prefix=f"/api{path}", tags=[tag], dependencies=guards)
