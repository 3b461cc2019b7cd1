"""The OpenAPI document, completed by how each route can refuse, found by what it takes."""

from collections.abc import Iterator
from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

from jade_perch.api.problems import MEDIA_TYPE, Problem

REFERENCE = "#/components/schemas/{model}"
ANSWER = "#/components/responses/{name}"
CONTENT = {MEDIA_TYPE: {"schema": {"$ref": REFERENCE.format(model="Problem")}}}
TITLES = {
    400: "Cannot be read, or comes by an address that is not the application's",
    403: "Sent by another web page",
    404: "Not found",
    409: "Changed meanwhile, name taken, or does not agree",
    412: "Meant for another world: a rehearsal, or the evening itself",
    413: "Too large",
    415: "Of a content type the route does not take",
    422: "Value refused, with field, value, what is allowed and the cure",
    503: "The database takes nothing now; the detail says why",
}


def document(app: FastAPI) -> dict[str, Any]:
    """Return the application's OpenAPI document, made once."""
    if app.openapi_schema is None:
        made = get_openapi(title=app.title, version=app.version, routes=app.routes)
        for verb, path, operation in operations(made):
            told = {
                str(status): {"$ref": ANSWER.format(name=f"Refusal{status}")}
                for status in refusals(verb, path, operation)
            }
            operation["responses"] = {**operation["responses"], **told}
        made["components"]["responses"] = {
            f"Refusal{status}": {"description": title, "content": CONTENT}
            for status, title in TITLES.items()
        }
        _add_model(made)
        app.openapi_schema = made
    return app.openapi_schema


def operations(made: dict[str, Any]) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Yield verb, path and operation of every route in a document."""
    for path, verbs in made["paths"].items():
        for verb, operation in verbs.items():
            yield verb, path, operation


def refusals(verb: str, path: str, operation: dict[str, Any]) -> list[int]:
    """Return the statuses with which a route may refuse."""
    statuses = {400, 422, 503}
    if verb != "get":
        statuses |= {403, 409, 412, 413, 415}
    if "{" in path or "parameters" in operation or "requestBody" in operation:
        statuses |= {404}
    return sorted(statuses)


def _add_model(made: dict[str, Any]) -> None:
    schema = Problem.model_json_schema(ref_template=REFERENCE, mode="serialization")
    schemas = made["components"]["schemas"]
    schemas |= {**schema.pop("$defs", {}), "Problem": schema}
    for unused in ("HTTPValidationError", "ValidationError"):
        schemas.pop(unused, None)
