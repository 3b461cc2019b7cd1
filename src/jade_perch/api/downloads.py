"""Files that a page saves."""

from fastapi import Response


def download(content: str | bytes, media_type: str, name: str) -> Response:
    """Return content as a file to be saved under a name."""
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=media_type, headers=headers)
