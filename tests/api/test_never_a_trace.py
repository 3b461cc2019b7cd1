"""Whatever is sent to whichever route, the answer is data or a problem the document knows."""

from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from tests.asking import CSV, demo_house
from tests.odd import Maker, fault_of, missing_sizes, operations, send, sent_schemas

EVERY_KIND_OF_ROUTE = 170  # there are more, but not fewer
ROUNDS = 4


@pytest.fixture(scope="module")
def client(tmp_path_factory) -> Iterator[TestClient]:
    with demo_house(tmp_path_factory.mktemp("fuzz")) as client:
        yield client


def test_any_question_is_answered_as_the_document_says(client):
    document = client.get("/api/openapi.json").json()
    maker, faults, asked = Maker(document, seed=13), [], 0
    for verb, path, operation in operations(document):
        for _ in range(ROUNDS):
            sent = maker.request(verb, path, operation)
            faults.append(fault_of(sent, send(client, sent)))
            asked += 1
    assert [one for one in faults if one] == []
    assert asked > ROUNDS * EVERY_KIND_OF_ROUTE


def test_after_all_that_the_house_still_stands(client):
    """What the questions left behind can still be read, exported and imported."""
    for path in ("evening", "plan/tonight", "powers/ladders", "setup", "kit/due", "setup/solar"):
        assert client.get(f"/api/{path}").status_code == 200
    text = client.get("/api/kit/export.csv").content
    report = client.post("/api/kit/import-preview", content=text, headers=CSV).json()
    assert [row for row in report["rows"] if row["outcome"] != "same"] == []


def test_the_document_tells_every_range_and_length(client):
    document = client.get("/api/openapi.json").json()
    assert document == client.get("/openapi.json").json()
    sent = list(sent_schemas(document))
    assert [f"{where}: {one}" for where, schema in sent for one in missing_sizes(schema)] == []
    assert len(sent) > 300 and "required" in document["components"]["schemas"]["Telescope"]
    for verb, path, operation in operations(document):
        refusals = {400, 422, 503} | (set() if verb == "get" else {403, 409, 412, 413, 415})
        assert {str(one) for one in refusals} <= set(operation["responses"]), (verb, path)
