"""Who may come in: every route of the document, by every door that is not its own."""

import re
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from jade_perch.api.seal import SECURITY_HEADERS
from tests.asking import ADDRESS, demo_house
from tests.odd import operations

FROM_ELSEWHERE = (
    {"origin": "http://elsewhere.invalid"},
    {"origin": "null"},
    {"origin": f"{ADDRESS}:81"},
    {"origin": "https://127.0.0.1"},
    {"sec-fetch-site": "cross-site"},
    {"sec-fetch-site": "same-site"},
)
# a name somebody else owns may be made to lead here, with an origin that fits it
OTHER_ADDRESSES = (
    "elsewhere.example", "rebound.example:8427", "127.0.0.1.elsewhere.example", "testserver",
    "127.0.0.2", "[::2]:80", "192.168.0.7", "localhost.elsewhere.example", "[", "",
)  # fmt: skip
SENT_UNASKED = ("text/plain", "application/x-www-form-urlencoded", "multipart/form-data", "")
WRITES = ("post", "put", "patch", "delete")


@pytest.fixture(scope="module")
def house(tmp_path_factory) -> Iterator[TestClient]:
    with demo_house(tmp_path_factory.mktemp("doors")) as house:
        yield house


def doors(house, verbs=("get", *WRITES)):
    """Verb, path and operation of every route, with a thing in each path."""
    found = [
        (verb, re.sub(r"{kind}", "level", re.sub(r"{\w+_id}", "1", path)), operation)
        for verb, path, operation in operations(house.get("/api/openapi.json").json())
        if verb in verbs
    ]
    assert len(found) > 80
    return found


def kept(house) -> str:
    return house.get("/api/kit/export.json").text + house.get("/api/journal/observations").text


def test_no_other_page_changes_anything(house):
    before = kept(house)
    for verb, path, _ in doors(house, WRITES):
        for headers in FROM_ELSEWHERE:
            for kind in ("application/json", "text/csv", "text/plain"):
                sent = {**headers, "content-type": kind}
                answer = house.request(verb, path, content=b"{}", headers=sent)
                assert answer.status_code == 403, (verb, path, headers)
                assert "Another web page" in answer.json()["detail"]
    assert kept(house) == before


def test_no_other_address_leads_in(house):
    before = kept(house)
    for verb, path, _ in doors(house):
        for host in OTHER_ADDRESSES:
            headers = {"host": host, "origin": f"http://{host}"}
            answer = house.request(verb, path, headers=headers)
            assert answer.status_code == 400, (verb, path, host)
            assert "does not answer to this address" in answer.json()["detail"]
    assert kept(house) == before


def test_what_any_page_may_send_without_asking_is_no_content_of_ours(house):
    before = kept(house)
    for verb, path, operation in doors(house, WRITES):
        taken = list(operation.get("requestBody", {}).get("content", {}))
        for kind in SENT_UNASKED if taken else SENT_UNASKED[:-1]:
            headers = {"content-type": kind} if kind else {}
            answer = house.request(verb, path, content=b"{}", headers=headers)
            assert answer.status_code == 415, (verb, path, kind)
            assert all(one in answer.json()["detail"] for one in taken)
    assert kept(house) == before


def test_its_own_page_and_programs_without_a_page_may_write(house):
    own = {"origin": ADDRESS, "sec-fetch-site": "same-origin"}
    for headers in ({}, own, {"host": "localhost:80"}, {"host": "[::1]:8427"}):
        answer = house.patch("/api/evening", json={"steadiness": 4}, headers=headers)
        assert answer.status_code == 200, headers


@pytest.mark.parametrize("address", ["127.0.0.9", "192.0.2.7", "::1", "2001:db8::7"])
def test_the_very_address_a_request_came_in_by_is_its_own(house, address):
    """However the application listens; another address than that one is not."""
    host = f"[{address}]" if ":" in address else address
    there = TestClient(house.app, base_url=f"http://{host}:8427")
    assert there.get("/api/kit/due").status_code == 200
    assert there.get("/api/kit/due", headers={"host": "192.0.2.8"}).status_code == 400


def test_every_answer_carries_the_headers_that_keep_others_out(house, monkeypatch):
    def broken(*_):
        raise RuntimeError("never meant")

    monkeypatch.setattr("jade_perch.api.kit.due_tasks", broken, raising=True)
    asked = {
        200: house.get("/api/evening"),
        400: house.get("/api/evening", headers={"host": "elsewhere.example"}),
        403: house.delete("/api/kit/mounts/1", headers={"origin": "null"}),
        404: house.post("/api/nowhere"),
        413: house.post("/api/kit/box", content=b"x" * 2_000_001),
        415: house.post("/api/kit/box", content=b"{}"),
        422: house.post("/api/kit/box", json={}),
        500: house.get("/api/kit/due"),
    }
    for status, answer in asked.items():
        assert answer.status_code == status
        assert all(answer.headers[name] == value for name, value in SECURITY_HEADERS.items())
        if status >= 400:
            assert answer.headers["content-type"] == "application/problem+json"
            assert "never meant" not in answer.text
    assert "unsafe-inline" not in SECURITY_HEADERS["Content-Security-Policy"].split("style-src")[0]
    page = house.get("/").text
    assert not re.findall(r"<script(?![^>]* src=)", page) and "<script" in page
