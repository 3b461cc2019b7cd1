"""Practice over HTTP: rounds that are kept, moves made once, and the gate before the Sun."""

import re
from datetime import UTC, datetime

import pytest

from jade_perch.api.app import create_app
from tests.asking import asking, lay_out
from tests.drilling import answer_the_sun_drill, poster

from .test_api import refused
from .test_guard import SHADOW, SetClock, open_session
from .test_setup import choose


def begin(client, drill="level", **given):
    return client.post("/api/practice/runs", json={"drill": drill, **given}).json()


def make(client, run, number=None, **move):
    told = {"number": run["number"] if number is None else number, "move": move}
    return client.post(f"/api/practice/runs/{run['id']}/moves", json=told)


def turn(client, run, foot, amount, number=None):
    return make(client, run, number, drill="level", kind="turn", foot=foot, amount=amount)


def card(client, drill):
    return next(one for one in client.get("/api/practice").json()["cards"] if one["drill"] == drill)


def test_a_round_is_kept_move_by_move_and_goes_on_where_it_was(demo):
    run = begin(demo, seed=7)
    once = turn(demo, run, 1, 5).json()
    assert once["number"] == 1 and once["scene"]["rests"] != run["scene"]["rests"]
    assert turn(demo, run, 1, 5).json() == once  # told again: made once
    assert demo.get(f"/api/practice/runs/{run['id']}").json() == once
    assert card(demo, "level")["open_id"] == run["id"]
    other = turn(demo, run, 2, 5)  # from a window that did not see the first
    assert other.status_code == 409 and "Another window is at move 1" in other.json()["detail"]
    again = begin(demo, seed=7)
    assert (
        again["scene"] == run["scene"]
        and turn(demo, again, 1, 5).json()["scene"] == (once["scene"])
    )
    assert card(demo, "level")["open_id"] == again["id"]
    assert demo.get(f"/api/practice/runs/{run['id']}").status_code == 404  # given up


@pytest.mark.parametrize(
    ("move", "field"),
    [
        ({"drill": "sun", "choice": 1, "scene": 1}, "move.drill"),
        ({"drill": "level", "kind": "turn", "foot": 4, "amount": 1}, "foot"),
        ({"drill": "level", "kind": "turn", "foot": 1, "amount": 400}, "amount"),
        ({"drill": "level", "kind": "turn", "foot": 1, "amount": 1, "at_s": -1}, "at_s"),
    ],
)
def test_a_move_that_cannot_be_made_names_its_field_and_changes_nothing(demo, move, field):
    run = begin(demo)
    (error,) = refused(make(demo, run, **move))["errors"]
    assert error["field"].endswith(field) and error["allowed"] and error["cure"]
    assert demo.get(f"/api/practice/runs/{run['id']}").json() == run


def test_progress_is_kept_for_each_observer_and_kit(demo):
    answer_the_sun_drill(poster(demo))
    run = begin(demo)
    for _ in range(30):
        run = make(demo, run, drill="level", kind="ask").json()
        words = run["say"]
        if words.startswith("Level enough"):
            break
        foot, amount = (
            int(re.search(r"foot (\d)", words)[1]),
            float(re.search(r"([\d.]+) mm", words)[1]),
        )
        run = turn(demo, run, foot, -amount if "lower" in words else amount).json()
        run = make(demo, run, drill="level", kind="tap").json()
        run = make(demo, run, drill="level", kind="tap", at_s=60 * run["number"]).json()
    run = make(demo, run, drill="level", kind="done").json()
    assert run["is_over"] and len(run["score"]["sentences"]) == 3
    assert refused(turn(demo, run, 1, 1))["errors"][0]["cure"] == "Begin another round."
    assert card(demo, "level")["progress"].startswith("1 round, 1 passed")
    choose(demo, "Wren 85")
    assert card(demo, "level")["progress"] == "Not tried yet."
    assert card(demo, "sun")["is_passed"]  # what one knows of the Sun goes with any telescope
    people = {one["name"]: one["id"] for one in demo.get("/api/evening/observers").json()}
    demo.patch("/api/evening", json={"observer_id": people["Tam Okoro-Lind"]}).raise_for_status()
    assert not card(demo, "sun")["is_passed"]


def test_a_telescope_marked_new_has_a_path_of_five_lessons_until_the_mark_goes(demo):
    def path():
        return demo.get("/api/practice").json()["path"]

    assert path() is None
    choose(demo, "Wren 85")
    wren = next(t for t in demo.get("/api/kit/telescopes").json() if t["name"] == "Wren 85")
    address = f"/api/kit/telescopes/{wren['id']}"
    marked = demo.put(address, json={**wren, "id": None, "is_new": True}).json()
    lessons = [one["drill"] for one in path()["lessons"]]
    assert lessons == ["glass", "finder", "focus", "which_way", "sun"]
    assert path()["next_drill"] == "glass" and "0 of 5 short lessons" in path()["words"]
    answer_the_sun_drill(poster(demo))
    assert [one["is_passed"] for one in path()["lessons"]] == [False] * 4 + [True]
    demo.put(address, json={**marked, "id": None, "is_new": False}).raise_for_status()
    assert path() is None


@pytest.fixture
def clock():
    return SetClock(datetime(2027, 3, 20, 11, 30, tzinfo=UTC))


@pytest.fixture
def by_day(clock, tmp_path):
    lay_out(tmp_path, is_demo=True)
    return asking(create_app(tmp_path, clock))


def test_no_solar_session_before_the_drill_is_passed_all_right_and_again_after_a_year(
    by_day, clock
):
    def may_open():
        board = by_day.get("/api/setup/solar").json()
        return not board["wants_drill"] and not any("drill" in one for one in board["forbids"])

    def tries():
        every = {"filter_id": 2, "done": list(by_day.get("/api/setup/solar").json()["checks"])}
        return refused(by_day.post("/api/setup/solar", json=every))["detail"]

    assert "Sun drill comes first" in tries() and not may_open()
    assert not answer_the_sun_drill(poster(by_day), wrong_at=3)["score"]["is_passed"]
    assert "Sun drill comes first" in tries() and not may_open()
    assert answer_the_sun_drill(poster(by_day))["score"]["is_passed"]
    assert may_open()
    open_session(by_day)
    assert by_day.post("/api/setup/solar/shadow", json=SHADOW).status_code == 200
    people = {one["name"]: one["id"] for one in by_day.get("/api/evening/observers").json()}
    tam = {"observer_id": people["Tam Okoro-Lind"]}
    by_day.patch("/api/evening", json=tam).raise_for_status()
    assert by_day.post("/api/setup/solar/shadow", json=SHADOW).status_code == 422
    assert not may_open()
    ilse = {"observer_id": people["Ilse Marrow"]}
    by_day.patch("/api/evening", json=ilse).raise_for_status()
    assert may_open()
    clock.go(days=364)
    assert may_open()
    clock.go(days=2)
    assert not may_open()
