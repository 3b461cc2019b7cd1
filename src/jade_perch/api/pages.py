"""The built pages: files named by their content, packed where that is taken, and one page."""

import os
from collections.abc import Sequence
from contextlib import suppress
from mimetypes import guess_type
from pathlib import Path

from starlette.datastructures import Headers
from starlette.responses import FileResponse, HTMLResponse, Response
from starlette.routing import BaseRoute, Mount
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

WEB = Path(__file__).parents[1] / "web"
NOT_BUILT = "<!doctype html><title>Jade Perch</title><p>The pages are not built: run make build."
PACKED = {"br": ".br", "gzip": ".gz"}  # the smaller first; made when the pages are built


class Built(StaticFiles):
    """Static files of which a packed one is sent to whoever takes it."""

    def file_response(
        self,
        full_path: str | os.PathLike[str],
        stat_result: os.stat_result,
        scope: Scope,
        status_code: int = 200,
    ) -> Response:
        """Return the smallest form of a file the asker takes."""
        taken = taken_codings(Headers(scope=scope).get("accept-encoding", ""))
        coding = next((one for one in PACKED if one in taken), None)
        packed = Path(f"{full_path}{PACKED[coding]}") if coding else None
        if packed is None or not packed.is_file():
            return super().file_response(full_path, stat_result, scope, status_code)
        kind = guess_type(full_path)[0] or "application/octet-stream"
        answer = super().file_response(packed, packed.stat(), scope, status_code)
        answer.headers.update({"Content-Encoding": str(coding), "Vary": "Accept-Encoding"})
        answer.headers["Content-Type"] = f"{kind}; charset=utf-8"
        return answer


def taken_codings(header: str) -> set[str]:
    """Return the codings an ``Accept-Encoding`` names and does not rule out by a weight of 0."""
    found = set()
    for part in header.lower().split(","):
        name, _, weight = part.partition(";")
        with suppress(ValueError):
            if not weight or float(weight.partition("=")[2]) > 0:
                found.add(name.strip())
    return found


def built_file(path: str) -> Path | None:
    """Return a file of the built pages by its path, or None where there is none of that name."""
    with suppress(ValueError, OSError):  # a name no file can have is none of ours
        file = (WEB / path).resolve()
        if file.is_relative_to(WEB) and file.is_file():
            return file
    return None


def built_routes() -> Sequence[BaseRoute]:
    """Return the way to what was built, where something was; asked for most, it stands first."""
    files = WEB / "assets"
    return [Mount("/assets", Built(directory=files))] if files.is_dir() else []


def page_of(path: str) -> Response:
    """Return a built file, or the one page every station's address leads to."""
    if path and (file := built_file(path)) is not None:
        return FileResponse(file)
    index = WEB / "index.html"
    return FileResponse(index) if index.is_file() else HTMLResponse(NOT_BUILT, 503)
