"""Whatever is sent to whichever route, the answer is data or a problem, never a crash."""

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from jade_perch.api.app import create_app
from jade_perch.demo.loader import CLOCK, load_demo
from jade_perch.devices.clock import parse_clock
from jade_perch.store.connection import DATABASE_NAME, connect

JUNK = st.one_of(
    st.none(), st.booleans(), st.integers(-(10**18), 10**18), st.text(max_size=12),
    st.floats(allow_nan=False, allow_infinity=False), st.just([]), st.just({}),
    st.sampled_from(["", " ", "1e400", "-0", "½", "\x00", "../..", "2027-02-30", "NaN"]),
)  # fmt: skip
EVERY_KIND_OF_ROUTE = 60  # there are more, but not fewer


def house(folder) -> TestClient:
    app = create_app(folder, parse_clock(CLOCK))
    db = connect(folder / DATABASE_NAME)
    load_demo(db)
    db.close()
    return TestClient(app, raise_server_exceptions=False)


@pytest.fixture(scope="module")
def client(tmp_path_factory) -> TestClient:
    return house(tmp_path_factory.mktemp("fuzz"))


def of_schema(schema, parts, depth=0):
    """A strategy for something like a JSON schema asks for, now and then not quite."""
    if "$ref" in schema:
        return of_schema(parts[schema["$ref"].rsplit("/", 1)[1]], parts, depth + 1)
    if depth > 6:
        return JUNK
    for several in ("anyOf", "oneOf"):
        if several in schema:
            return st.one_of(*(of_schema(one, parts, depth + 1) for one in schema[several]))
    if "const" in schema or "enum" in schema:
        return st.sampled_from([schema["const"]] if "const" in schema else schema["enum"])
    if schema.get("type") == "object" and "properties" in schema:
        needed = set(schema.get("required", ()))
        fields = {
            name: st.one_of(of_schema(one, parts, depth + 1), JUNK)
            if depth == 0
            else of_schema(one, parts, depth + 1)
            for name, one in schema["properties"].items()
        }
        return st.fixed_dictionaries(
            {name: one for name, one in fields.items() if name in needed},
            optional={name: one for name, one in fields.items() if name not in needed},
        )
    if schema.get("type") == "array":
        return st.lists(of_schema(schema.get("items", {}), parts, depth + 1), max_size=5)
    if schema.get("type") in ("number", "integer"):
        low, high = schema.get("minimum", -1e4), schema.get("maximum", 1e4)
        whole = schema["type"] == "integer"
        return st.integers(int(low), int(high)) if whole else st.floats(low, high)
    if schema.get("type") == "boolean":
        return st.booleans()
    return st.one_of(st.text(max_size=20), JUNK)


def routes(document):
    for path, verbs in document["paths"].items():
        for verb, route in verbs.items():
            if path != "/api/events":  # it never ends
                yield path, verb, route


def check(answer, sent):
    assert answer.status_code < 500, f"{sent}: {answer.text}"
    if answer.status_code >= 400:
        assert answer.headers["content-type"] == "application/problem+json", sent
        problem = answer.json()
        assert problem["status"] == answer.status_code and problem["detail"], sent
        if answer.status_code == 422:
            assert problem["errors"] or "Sun" in problem["title"] or "solar" in problem["title"]
        for one in problem["errors"]:
            assert one["field"] and one["allowed"] and one["cure"], sent


@settings(max_examples=150, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(data=st.data())
def test_any_question_is_answered(client, data):
    document = client.get("/openapi.json").json()
    parts = document["components"]["schemas"]
    every = list(routes(document))
    assert len(every) > EVERY_KIND_OF_ROUTE
    path, verb, route = data.draw(st.sampled_from(every))
    for parameter in route.get("parameters", ()):
        if parameter["in"] == "path":
            value = data.draw(of_schema(parameter["schema"], parts) | st.integers(1, 5))
            text = str(value).replace("/", "").replace("?", "").replace("#", "") or "1"
            path = path.replace(f"{{{parameter['name']}}}", text)
    query = {
        parameter["name"]: data.draw(of_schema(parameter["schema"], parts) | JUNK)
        for parameter in route.get("parameters", ())
        if parameter["in"] == "query" and data.draw(st.booleans())
    }
    content = route.get("requestBody", {}).get("content", {})
    body = None
    if "application/json" in content:
        body = data.draw(of_schema(content["application/json"]["schema"], parts))
    answer = client.request(verb, path, params=query, json=body)
    check(answer, f"{verb} {path} {query} {body}")


def test_after_all_that_the_house_still_stands(client):
    """What the questions left behind can still be read, exported and imported."""
    for path in ("evening", "plan/tonight", "powers/ladders", "setup", "kit/due"):
        assert client.get(f"/api/{path}").status_code == 200
    text = client.get("/api/kit/export.csv").content
    report = client.post("/api/kit/import-preview", content=text).json()
    assert [row for row in report["rows"] if row["outcome"] != "same"] == []
