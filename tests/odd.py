"""Odd requests for every route of a document: nearly what it asks for, one thing gone wrong."""

import json
from collections.abc import Iterator
from dataclasses import dataclass
from random import Random
from typing import Any
from urllib.parse import quote

from fastapi.testclient import TestClient

from jade_perch.api.document import operations as documented

LONG = "9" * 5000
ODD = (
    None, True, 0, -1, 0.5, -0.0, 2**31, 2**63, 2**64, -(2**63) - 1, 1e308, -1e308, 5e-324,
    "", " ", "x" * 300, "é" * 5000, "\ud800", "a\udfffb", "\x00", "\x7f\u202e", "½", "NaN",
    "1e400",
    "../../etc", "%00", "Straße", "9999-12-31", "0001-01-01", "2027-02-30",
    "0001-01-01T00:00:00+14:00",
    "9999-12-31T23:59:59-14:00", "2027-02-13T25:00:00Z", "12:00", LONG, [], {}, [[]], [None],
    {"": {}}, [1] * 500, {"kind": "round"}, "moon", "M42",
)  # fmt: skip
RAW = (
    b"", b"{", b"\xff\xfe", b"[" * 3000, b'{"a":' + LONG.encode() + b"}", b'"\\ud800"', b"null",
    b'{"rungs":{"\\udc00":"x"}}', b"NaN", b"Infinity", b'{"id":1e400}', b"item,name\n\x00,\xff\n",
)  # fmt: skip
ENDLESS = "/api/events"
OFTEN_ODD = 0.6  # of requests have one odd thing in them; the others are only made up


SIZES = {
    "integer": ("minimum", "maximum"),
    "number": ("minimum", "maximum"),
    "string": ("maxLength",),
    "array": ("maxItems",),
}


@dataclass
class Sent:
    """One request as it is sent, and the answers its route's document knows."""

    verb: str
    path: str
    query: dict[str, Any]
    body: bytes | None
    headers: dict[str, str]
    known: set[int]


def operations(document: dict[str, Any]) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Every route that answers and ends."""
    return (one for one in documented(document) if one[1] != ENDLESS)


def sent_schemas(document: dict[str, Any]) -> Iterator[tuple[str, dict[str, Any]]]:
    """Every schema of something a page may send, and where it stands."""
    parts, seen = document["components"]["schemas"], set()
    waiting: list[tuple[str, dict[str, Any]]] = []
    for verb, path, operation in operations(document):
        asked = [(one["name"], one["schema"]) for one in operation.get("parameters", ())]
        content = operation.get("requestBody", {}).get("content", {})
        asked += [("body", one["schema"]) for one in content.values() if "$ref" in one["schema"]]
        waiting += [(f"{verb} {path} {name}", schema) for name, schema in asked]
    while waiting:
        where, schema = waiting.pop()
        name = schema.get("$ref", "").rsplit("/", 1)[-1]
        if name and name not in seen:
            seen.add(name)
            waiting.append((name, parts[name]))
        if not name:
            yield where, schema
            waiting += [(where, one) for one in _inside(schema)]


def _inside(schema: dict[str, Any]) -> Iterator[dict[str, Any]]:
    yield from (*schema.get("anyOf", ()), *schema.get("oneOf", ()))
    yield from (*schema.get("prefixItems", ()), *schema.get("properties", {}).values())
    yield from (schema[one] for one in ("items", "additionalProperties") if schema.get(one))


def missing_sizes(schema: dict[str, Any]) -> list[str]:
    """What a schema does not tell: between which numbers, how long, how many."""
    if "enum" in schema or "const" in schema or schema.get("format") in ("date", "date-time"):
        return []
    needed = SIZES.get(schema.get("type", ""), ())
    needed += ("maxProperties",) if schema.get("additionalProperties") else ()
    return [one for one in needed if one not in schema]


class Maker:
    """Makes requests up by a document; the same seed makes the same ones."""

    def __init__(self, document: dict[str, Any], seed: int) -> None:
        self.parts, self.dice = document["components"]["schemas"], Random(seed)

    def request(self, verb: str, path: str, operation: dict[str, Any]) -> Sent:
        known = {int(status) for status in operation["responses"]}
        query: dict[str, Any] = {}
        for one in operation.get("parameters", ()):
            value = self.value(one["schema"])
            if self.dice.random() < 0.2:
                value = self.dice.choice(ODD)
            if one["in"] == "path":
                text = str(value).encode("utf-8", "replace")[:2000]
                path = path.replace(f"{{{one['name']}}}", quote(text, safe="") or "1")
            elif one.get("required") or self.dice.random() < 0.5:
                query[one["name"]] = value
        query = {name: _sendable(value) for name, value in query.items()}
        body, headers = self._body(operation.get("requestBody", {}).get("content", {}))
        return Sent(verb, path, query, body, headers, known)

    def _body(self, content: dict[str, Any]) -> tuple[bytes | None, dict[str, str]]:
        if not content:
            return None, {}
        kind = self.dice.choice(list(content))
        headers = {"content-type": kind}
        if kind != "application/json" or self.dice.random() < 0.1:
            return self.dice.choice(RAW), headers
        value = self.value(content[kind]["schema"])
        if self.dice.random() < OFTEN_ODD:
            value = self.spoiled(value)
        return json.dumps(value).encode(), headers

    def spoiled(self, value: Any) -> Any:
        """The same with one thing in it odd, somewhere."""
        if isinstance(value, dict) and value and self.dice.random() < 0.95:
            name = self.dice.choice(list(value))
            return {**value, name: self.spoiled(value[name])}
        if isinstance(value, list) and value and self.dice.random() < 0.7:
            at = self.dice.randrange(len(value))
            return [*value[:at], self.spoiled(value[at]), *value[at + 1 :]]
        return self.dice.choice(ODD)

    def value(self, schema: dict[str, Any], depth: int = 0) -> Any:
        """Something a schema allows."""
        if "$ref" in schema:
            return self.value(self.parts[schema["$ref"].rsplit("/", 1)[1]], depth + 1)
        several = schema.get("anyOf") or schema.get("oneOf")
        if several:
            return self.value(self.dice.choice(several), depth + 1)
        if "const" in schema or "enum" in schema:
            return schema["const"] if "const" in schema else self.dice.choice(schema["enum"])
        made = getattr(self, f"_{schema.get('type')}", lambda *_: None)
        return made(schema, depth)

    def _object(self, schema: dict[str, Any], depth: int) -> Any:
        needed = schema.get("required", ())
        return {
            name: self.value(one, depth + 1)
            for name, one in schema.get("properties", {}).items()
            if name in needed or (depth < 6 and self.dice.random() < 0.7)
        }

    def _array(self, schema: dict[str, Any], depth: int) -> Any:
        if "prefixItems" in schema:
            return [self.value(one, depth + 1) for one in schema["prefixItems"]]
        most = min(3, schema.get("maxItems", 3)) if depth < 6 else 0
        size = max(self.dice.randint(0, most), schema.get("minItems", 0))
        return [self.value(schema.get("items", {}), depth + 1) for _ in range(size)]

    def _number(self, schema: dict[str, Any], _: int) -> Any:
        low, high = schema["minimum"], schema["maximum"]
        return self.dice.choice((low, high, self.dice.uniform(low, high)))

    def _integer(self, schema: dict[str, Any], _: int) -> Any:
        low, high = int(schema["minimum"]), int(schema["maximum"])
        return self.dice.choice((low, high, min(high, low + self.dice.randint(0, 6))))

    def _boolean(self, *_: Any) -> Any:
        return self.dice.random() < 0.5

    def _string(self, schema: dict[str, Any], _: int) -> Any:
        if schema.get("format") == "date":
            return f"20{self.dice.randint(26, 28)}-{self.dice.randint(1, 12):02}-13"
        if schema.get("format") == "date-time":
            return f"2027-02-{self.dice.randint(10, 16):02}T{self.dice.randint(0, 23):02}:10:00Z"
        texts = ("moon", "m42", "A", "Berlin", "10×50", "UTC", "1", "x" * schema["maxLength"])
        return self.dice.choice(texts)


def _sendable(value: Any) -> Any:
    if isinstance(value, list):
        return [_sendable(one) for one in value]
    return str(value).encode("utf-8", "replace").decode() if value is not None else ""


def send(client: TestClient, sent: Sent) -> Any:
    return client.request(
        sent.verb, sent.path, params=sent.query, content=sent.body, headers=sent.headers
    )


def fault_of(sent: Sent, answer: Any) -> str | None:
    """What is wrong with an answer, in words; None where it is as documented."""
    told = f"{sent.verb} {sent.path} {str(sent.query)[:200]} {str(sent.body)[:300]}: "
    told += f"{answer.status_code} {answer.text[:300]}"
    if answer.status_code >= 500 and answer.status_code != 503:
        return f"broke: {told}"
    if answer.status_code not in sent.known:
        return f"not documented: {told}"
    if answer.status_code < 400:
        return None
    problem = answer.json()
    is_problem = answer.headers["content-type"] == "application/problem+json"
    if not is_problem or problem["status"] != answer.status_code or not problem["detail"]:
        return f"no problem details: {told}"
    is_named = all(one["field"] and one["allowed"] and one["cure"] for one in problem["errors"])
    by_the_sun = "Sun" in problem["title"] or "solar" in problem["title"]
    if not is_named or (answer.status_code == 422 and not problem["errors"] and not by_the_sun):
        return f"names no field: {told}"
    return None
