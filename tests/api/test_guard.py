"""The Sun guard over HTTP: every route that aims, all the time, whoever asks."""

from datetime import UTC, datetime, timedelta

import pytest
from fastapi.routing import APIRoute

from jade_perch.api.app import create_app
from jade_perch.api.guard import the_guard
from jade_perch.devices.clock import Clock
from tests.asking import CSV, asking, lay_out
from tests.drilling import answer_the_sun_drill, poster

from .test_api import refused
from .test_setup import NORTH_WEST, SEEN, TOWARD_THE_SUN, choose, states

FIELDS_OF_A_DIRECTION = {
    "bearing_deg",
    "known_deg",
    "landmark",
    "caps_on",
    "on",
    "shadow_length_mm",
}
AT_THE_SUN = {
    "/api/setup/balance": {"extra_g": 100},
    "/api/setup/landmark": TOWARD_THE_SUN,
    "/api/setup/finder": {**SEEN, "landmark": TOWARD_THE_SUN},
    "/api/setup/north": {"method": "landmark", "known_deg": 244, "read_deg": 244},
    "/api/setup/focus": {"eyepiece_id": 1, "on": "landmark", "landmark": TOWARD_THE_SUN},
    "/api/setup/solar/shadow": {"shadow_length_mm": 200, "shadow_width_mm": 90},
}


class SetClock(Clock):
    """A clock that a test moves by hand; it calls itself real."""

    def __init__(self, moment_utc):
        object.__setattr__(self, "moment_utc", moment_utc)

    def now_utc(self):
        return self.moment_utc

    def real_utc(self):
        return self.moment_utc

    @property
    def kind(self):
        return "real"

    def go(self, **span):
        object.__setattr__(self, "moment_utc", self.moment_utc + timedelta(**span))


@pytest.fixture
def clock():
    """Early afternoon of a March day at the demo's first place."""
    return SetClock(datetime(2027, 3, 20, 11, 30, tzinfo=UTC))


@pytest.fixture
def by_day(tmp_path, clock):
    lay_out(tmp_path, is_demo=True)
    return asking(create_app(tmp_path, clock))


def routes_below(router):
    for route in getattr(router, "routes", []):
        if isinstance(route, APIRoute):
            yield route
        else:
            yield from routes_below(getattr(route, "original_router", None) or route)


def asks_the_guard(dependant):
    return any(one.call is the_guard or asks_the_guard(one) for one in dependant.dependencies)


def fields_of(body, depth=3):
    for name, field in getattr(body, "model_fields", {}).items():
        yield name
        if depth:
            yield from fields_of(field.annotation, depth - 1)


def test_no_route_that_is_told_a_direction_is_without_the_guard(demo):
    """A route that takes a direction and leaves the guard out fails here, whatever its name."""
    seen = set()
    for path, methods in demo.get("/openapi.json").json()["paths"].items():
        for method in methods:
            seen.add((path, method.upper()))
    aiming = {}
    for route in routes_below(demo.app.router):
        body = route.body_field
        told = set(fields_of(getattr(getattr(body, "field_info", body), "annotation", None)))
        if body is not None and "POST" in route.methods and told & FIELDS_OF_A_DIRECTION:
            aiming[route.path] = asks_the_guard(route.dependant)
    found = {path.removeprefix("/api") for path in aiming}
    assert {path.removeprefix("/api") for path in AT_THE_SUN} <= found
    assert [path for path, is_guarded in aiming.items() if not is_guarded] == []


@pytest.mark.parametrize("recorded", ["", "?recorded=true"])
def test_every_way_to_point_at_the_sun_is_refused(demo, recorded):
    for path, body in AT_THE_SUN.items():
        if path.endswith("landmark") and not recorded:
            continue  # asking there answers "refused" as an advice
        problem = refused(demo.post(f"{path}{recorded}", json=body))
        assert problem["title"] == "Refused because of the Sun", path
    assert set(states(demo).values()) <= {"to_do", "not_needed"}


def test_a_landmark_called_safe_is_not_safe_once_the_sun_comes_near(by_day, clock):
    """Recorded at 12:30 in the south-west; two hours later the Sun stands within 30° of it."""
    west = {"bearing_deg": 250, "altitude_deg": 20, "distance_m": 900, "job_minutes": 60}
    by_day.post("/api/setup/landmark?recorded=true", json=west).raise_for_status()
    aligned = {**SEEN, "landmark": west}
    assert by_day.post("/api/setup/finder?recorded=true", json=aligned).status_code == 200

    def step(name):
        return next(s for s in by_day.get("/api/setup").json()["steps"] if s["name"] == name)

    assert (step("sun")["state"], step("sun")["not_safe"]) == ("done", "")
    clock.go(minutes=61)
    over = step("sun")
    assert over["state"] == "unsafe" and "its time was over at 13:30" in over["not_safe"]
    clock.go(hours=2)
    near = step("sun")
    assert near["state"] == "unsafe" and "the Sun is within 30° of it" in near["not_safe"]
    assert near["not_safe"].startswith("Not safe now: since 1")
    finder = step("finder")  # aligned it stays, but nobody looks there now
    assert finder["state"] == "done" and "within 30°" in finder["not_safe"]
    marks = {one["title"]: one["state"] for one in by_day.get("/api/evening").json()["setup"]}
    assert marks["Sun guard"] == "unsafe"
    assert by_day.post("/api/setup/finder", json=aligned).status_code == 422
    clock.go(hours=5)  # the Sun is down
    assert (step("sun")["state"], step("finder")["not_safe"]) == ("done", "")


def open_session(client):
    choose(client, "Wren 85")
    board = client.get("/api/setup/solar").json()
    if board["wants_drill"]:
        answer_the_sun_drill(poster(client))
    foil = board["filters"][0]["id"]
    task = next(one for one in client.get("/api/kit/upkeeps").json() if one["task"] == "inspection")
    if task["last_done"] != "2027-03-20":
        now = {**task, "last_done": "2027-03-20"}
        client.put(f"/api/kit/upkeeps/{task['id']}", json=now).raise_for_status()
    opened = client.post(
        "/api/setup/solar", json={"filter_id": foil, "done": list(board["checks"])}
    )
    assert opened.status_code == 201, opened.text
    return foil


SHADOW = {"shadow_length_mm": 98, "shadow_width_mm": 98}


def is_open(client):
    shadow = client.post("/api/setup/solar/shadow", json=SHADOW)
    board = client.get("/api/setup/solar").json()
    assert (shadow.status_code == 200) == (board["session"] is not None)
    return shadow.status_code == 200


def test_a_solar_session_ends_with_whatever_makes_its_checks_void(by_day, clock):
    foil = open_session(by_day)
    assert (
        "look through" in by_day.post("/api/setup/solar/shadow", json=SHADOW).json()["instruction"]
    )
    for mishap in ("base_moved", "tube_slid", "tube_bumped", "load_changed", "power_lost"):
        assert is_open(by_day)
        by_day.post(f"/api/setup/mishaps/{mishap}").raise_for_status()
        assert not is_open(by_day), mishap
        open_session(by_day)
    choose(by_day, "Heron 140")
    assert not is_open(by_day)
    choose(by_day, "Wren 85")  # a swap and back is a swap
    assert not is_open(by_day)
    open_session(by_day)
    by_day.delete(f"/api/kit/light-filters/{foil}")
    by_day.post(f"/api/kit/light-filters/{foil}/restore")
    assert not is_open(by_day)
    open_session(by_day)
    tube = next(t for t in by_day.get("/api/kit/telescopes").json() if t["name"] == "Wren 85")
    by_day.put(f"/api/kit/telescopes/{tube['id']}", json={**tube, "focal_length_mm": 570})
    assert not is_open(by_day)
    open_session(by_day)
    clock.go(hours=6, minutes=1)
    assert not is_open(by_day)


def test_an_inspection_that_has_not_happened_yet_is_refused(by_day):
    task = next(one for one in by_day.get("/api/kit/upkeeps").json() if one["task"] == "inspection")
    ahead = {**task, "last_done": "2027-03-22"}
    for answer in (
        by_day.put(f"/api/kit/upkeeps/{task['id']}", json=ahead),
        by_day.post("/api/kit/upkeeps", json={**ahead, "id": None}),
    ):
        problem = refused(answer)["errors"][0]
        assert (problem["field"], problem["value"]) == ("last_done", "2027-03-22")
    text = "item,item_kind,item_name,task,last_done\n"
    text += "upkeep,light_filter,Front foil for the Wren,inspection,2099-01-01\n"
    report = by_day.post("/api/kit/import", content=text.encode(), headers=CSV).json()
    assert (report["refused"], report["applied"]) == (1, False)
    kept = next(one for one in by_day.get("/api/kit/upkeeps").json() if one["task"] == "inspection")
    assert kept == task


def test_what_was_set_up_before_noon_is_there_after_it(by_day, clock):
    clock.go(hours=-2, minutes=-30)  # ten in the morning
    choose(by_day, "Coot 110")
    by_day.post("/api/setup/balance?recorded=true", json={"caps_on": True}).raise_for_status()
    evening = by_day.get("/api/evening").json()["night"]["date"]
    for hours in (1, 2.5, 8, 9):  # eleven, half past one, the evening, half past six
        clock.go(hours=hours if hours < 3 else hours - 6)
        assert by_day.get("/api/evening").json()["night"]["date"] == evening == "2027-03-20"
        assert states(by_day)["balance"] == "done"


@pytest.mark.parametrize(
    ("path", "body", "field"),
    [
        ("finder", {**SEEN, "landmark": NORTH_WEST}, "finder_id"),
        ("cool", {"out_at_utc": "4900-01-01T00:00:00Z"}, "out_at_utc"),
        ("cool", {"out_at_utc": "2027-02-13T19:10:00Z"}, "out_at_utc"),
        ("cool", {"out_at_utc": "2027-02-10T16:10:00Z"}, "out_at_utc"),
        ("focus", {"eyepiece_id": 1, "on": "star"}, "on"),
        ("north", {"method": "polaris"}, "on"),
        ("north", {"method": "drift", "drift_arcmin": 0, "drift_minutes": 1}, "on"),
    ],
)
def test_what_cannot_be_is_refused_with_its_field(demo, path, body, field):
    if path == "finder":
        others = {one["id"] for one in demo.get("/api/kit/finders").json()}
        own = {one["id"] for one in demo.get("/api/setup").json()["finders"]}
        body = {**body, "finder_id": min(others - own)}
    assert refused(demo.post(f"/api/setup/{path}", json=body))["errors"][0]["field"] == field
