"""The built pages leave packed for whoever takes that, and as they are for whoever does not."""

import gzip

import pytest
from starlette.applications import Starlette
from starlette.routing import Mount
from starlette.testclient import TestClient

from jade_perch.api.pages import Built, taken_codings

SCRIPT = b"export const perch = 'jade'\n" * 40


@pytest.fixture
def built(tmp_path):
    (tmp_path / "a.js").write_bytes(SCRIPT)
    (tmp_path / "a.js.gz").write_bytes(gzip.compress(SCRIPT))
    (tmp_path / "a.js.br").write_bytes(b"smaller still")
    (tmp_path / "plain.txt").write_bytes(b"as it is")
    return TestClient(Starlette(routes=[Mount("/", Built(directory=tmp_path))]))


@pytest.mark.parametrize(
    ("taken", "coding"),
    [
        ("gzip, deflate, br", "br"),
        ("gzip", "gzip"),
        ("br;q=0, gzip;q=0.5", "gzip"),
        ("identity", None),
        ("", None),
        ("br;q=much", None),
    ],
)
def test_the_smallest_form_that_is_taken_is_sent(built, taken, coding):
    answer = built.get("/a.js", headers={"Accept-Encoding": taken})
    assert answer.status_code == 200
    assert answer.headers.get("content-encoding") == coding
    assert answer.headers["content-type"].startswith("text/javascript")
    if coding != "br":
        assert answer.content == SCRIPT


def test_what_was_not_packed_is_sent_as_it_is(built):
    answer = built.get("/plain.txt", headers={"Accept-Encoding": "br, gzip"})
    assert answer.content == b"as it is" and "content-encoding" not in answer.headers


def test_codings_ruled_out_are_not_taken():
    assert taken_codings("GZIP;q=1.0, br;q=0.0, *;q=0") == {"gzip"}


def test_a_long_answer_is_packed_and_a_short_one_not(demo):
    taking = {"Accept-Encoding": "gzip"}
    assert demo.get("/api/powers/ladders", headers=taking).headers["content-encoding"] == "gzip"
    short = demo.get("/api/evening/position", headers=taking)
    assert "content-encoding" not in short.headers
