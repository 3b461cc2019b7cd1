"""The eyepiece over the API: presses, the Sun, notes, pictures, rehearsals."""

import io
from concurrent.futures import ThreadPoolExecutor
from uuid import uuid4

import pytest
from PIL import Image

from jade_perch.core.eyepiece.sitting import Press, Sitting
from jade_perch.core.moments import Now
from jade_perch.devices.clock import parse_clock
from jade_perch.store import sittings
from jade_perch.store.connection import DATABASE_NAME, connect
from jade_perch.store.desk import read_desk
from tests.asking import PICTURE, demo_house

NIGHT, NOON = "2027-02-13T20:00+01:00", "2027-02-13T12:30+01:00"


@pytest.fixture
def at(tmp_path):
    """Open the demo evening at a moment; opened again it is the same evening."""
    opened = []

    def open_at(clock=NIGHT):
        client = demo_house(tmp_path, clock)
        opened.append(client.__enter__())
        return client

    yield open_at
    for client in opened:
        client.__exit__(None, None, None)


def press(client, what, key=None, **values):
    return client.post("/api/eyepiece/press", json={"key": key or uuid4().hex, "what": what,
                                                    **values})  # fmt: skip


def spot(target, kind="look", rung="e1"):
    return {"target_key": target, "kind": kind, "rung_key": rung}


def sitting(client):
    return client.get("/api/eyepiece").json()["sitting"]


def test_a_press_is_heard_once_and_outlives_a_restart(at):
    client = at()
    first = press(client, "go", "k1", spot=spot("moon")).json()
    assert first["spot"]["target_key"] == "moon" and len(first["looks"]) == 1
    press(client, "go", "k2", spot=spot("m42", "put", "e2"))
    assert press(client, "go", "k1", spot=spot("moon")).json()["spot"]["target_key"] == "m42"
    again = at()
    assert sitting(again)["spot"]["target_key"] == "m42"
    assert again.get("/api/evening").json()["choice"]["rungs"]["1"] == "e2", "others look along"


def test_a_press_held_up_on_its_way_does_not_make_the_next_one_old(at):
    client = at()
    # held up: it is dated when it arrives, at 19:00
    press(client, "go", "k1", spot=spot("moon", "focus"))
    meanwhile = {"made_at_utc": "2027-02-13T18:59:58Z"}
    press(client, "light", "k2", after_key="k1", **meanwhile)
    moved = press(client, "go", "k3", spot=spot("moon"), after_key="k2", **meanwhile).json()
    assert moved["spot"]["kind"] == "look" and moved["since_utc"] == "2027-02-13T19:00:00Z"
    # the other hand has gone on since: a press of before still moves nothing, whatever it follows
    later = at("2027-02-13T20:10+01:00")
    press(later, "go", "k4", spot=spot("m42", "put"))
    for followed in ("k3", "k4 misread", ""):
        late = press(later, "go", spot=spot("moon", "note"), after_key=followed, **meanwhile).json()
        assert late["spot"]["target_key"] == "m42"


@pytest.mark.parametrize(
    ("values", "field"),
    [
        ({"spot": spot("m-999999")}, "target"),
        ({"spot": spot("moon", rung="e77")}, "spot.rung_key"),
        ({"spot": None, "person_id": 99}, "person_id"),
        ({"spot": None, "rehearsal": "another"}, "rehearsal"),
        ({"spot": None, "people_ids": [1] * 41}, "people_ids"),
    ],
)
def test_what_is_not_there_is_named_and_nothing_moves(at, values, field):
    client = at()
    press(client, "go", spot=spot("moon"))
    refused = press(client, "go", **values)
    assert refused.status_code in (409, 412, 422)
    (found, *_) = refused.json()["errors"]
    assert field in found["field"] and found["cure"]
    assert sitting(client)["spot"]["target_key"] == "moon"


@pytest.mark.parametrize(
    ("begins", "goes_on"),
    [
        ("2027-02-13T23:50+01:00", "2027-02-14T02:10+01:00"),  # across midnight
        ("2027-03-27T23:50+01:00", "2027-03-28T03:10+02:00"),  # and the night the clocks go on
        ("2027-10-30T23:50+02:00", "2027-10-31T01:10+00:00"),  # and back
    ],
)
def test_an_evening_goes_on_across_midnight_and_a_change_of_the_clocks(at, begins, goes_on):
    press(at(begins), "go", spot=spot("moon", "note", ""))
    client = at(goes_on)
    assert sitting(client)["spot"]["target_key"] == "moon"
    assert client.get("/api/eyepiece/packing").json()["totals"]["minutes"] == 140 or "10" in begins


def test_a_clock_set_back_and_a_zone_changed_in_mid_evening_lose_nothing(at):
    press(at("2027-02-13T22:00+01:00"), "go", spot=spot("moon", "look", "e1"))
    client = at("2027-02-13T20:00+01:00")
    moved = press(client, "go", spot=spot("m42", "put", "e2")).json()
    assert moved["spot"]["target_key"] == "m42" and len(moved["looks"]) == 1
    site = client.get("/api/evening").json()["site"]
    moved_zone = {**site, "id": None, "zone": "Atlantic/Azores"}
    changed = client.put(f"/api/evening/sites/{site['id']}", json=moved_zone)
    assert changed.status_code == 200
    assert sitting(client)["spot"]["target_key"] == "m42"


def test_by_day_nothing_is_pointed_however_often_it_is_pressed(at):
    client = at(NOON)
    for target in ("m42", "mercury"):
        for _ in range(3):
            refused = press(client, "go", spot=spot(target, "point", ""))
            assert refused.status_code == 422
            assert refused.json()["title"] == "Refused because of the Sun"
    assert sitting(client)["spot"] is None
    # begun in the dark, the same evening is guarded again once the Sun is up
    press(at(), "go", spot=spot("m42"))
    morning = at("2027-02-14T07:40+01:00")
    morning.patch("/api/evening", json={"date": "2027-02-13"})
    here = morning.get("/api/eyepiece").json()["here"]
    assert here["sun"]["refused"] and press(morning, "go", spot=spot("m42")).status_code == 422


def test_what_was_pressed_in_the_dark_and_told_by_day_still_counts(at):
    client = at("2027-02-14T12:30+01:00")
    told = {"made_at_utc": "2027-02-14T03:00:00Z", "date": "2027-02-13", "site_id": 1}
    late = press(client, "go", spot=spot("m42"), **told)
    assert late.status_code == 200 and late.json()["looks"][0]["target_key"] == "m42"
    assert press(client, "go", spot=spot("m42")).status_code == 422
    assert sitting(client)["spot"] is None, "today's evening has not begun"


def test_without_a_telescope_there_is_no_screen_but_a_thread(client):
    assert client.get("/api/eyepiece").json() is None
    assert client.get("/api/eyepiece/thread").json()["leads_to"] == "/plan?tab=place"
    assert press(client, "close").status_code == 422
    assert client.get("/api/eyepiece/packing").status_code == 422


def test_free_observing_offers_what_shows_and_a_plan_its_own_order(at):
    client = at()
    free = client.get("/api/eyepiece").json()
    assert free["is_between"] and len(free["offers"]) == 3 and "no plan" in free["offer_words"]
    client.post("/api/plan/schedule", json={"target_keys": ["jupiter", "m42", "m35"]})
    blocks = [one for one in client.get("/api/plan/schedule").json()["blocks"] if one["item_id"]]
    offered = client.get("/api/eyepiece").json()
    assert [one["target_key"] for one in offered["offers"]] == [blocks[0]["target_key"]]
    assert offered["here"]["counted"] == "1 of 3"
    press(client, "done", target_key=blocks[0]["target_key"])
    assert client.get("/api/eyepiece").json()["here"]["target"]["key"] == blocks[1]["target_key"]


def test_later_and_skip_plan_again_in_one_press(at):
    client = at()
    client.post("/api/plan/schedule", json={"target_keys": ["jupiter", "m42"]})
    press(client, "go", spot=spot("jupiter"))
    press(client, "later", target_key="jupiter")
    (block,) = [one for one in client.get("/api/plan/schedule").json()["blocks"]
                if one["target_key"] == "jupiter"]  # fmt: skip
    assert block["starts_utc"] >= "2027-02-13T19:30:00Z"
    press(client, "skip", target_key="m42")
    plan = client.get("/api/plan/schedule").json()
    assert [one["target_key"] for one in plan["left_out"]] == ["m42"]


def test_what_is_judged_of_air_and_sky_reaches_ladder_and_plan_at_once(at):
    client = at()
    before = client.get("/api/eyepiece").json()["here"]["air_magnification"]
    said = {"steadiness": 1, "transparency": 2, "faintest_seen_mag": "4,5"}
    assert client.patch("/api/evening", json=said).status_code == 422
    client.patch("/api/evening", json={**said, "faintest_seen_mag": 4.5})
    told = client.get("/api/eyepiece").json()
    assert (before, told["here"]["air_magnification"]) == (120, 60)
    assert "mag/arcsec²" in told["air"]["sky_words"]
    ladder = client.get("/api/powers/ladders?telescope_id=1").json()[0]
    assert ladder["viewer"]["sky_mpsas"] == pytest.approx(18.65, abs=0.05)


def test_an_evening_left_open_is_asked_for_the_next_time(at):
    client = at()
    press(client, "go", spot=spot("moon"))
    press(client, "pack", item="eyepiece-1")
    next_day = at("2027-02-14T20:00+01:00")
    assert "left" in next_day.get("/api/eyepiece").json()["left_words"]
    left = next_day.get("/api/eyepiece/packing").json()["left"]
    keys = [one["key"] for one in left["items"]]
    assert "eyepiece-1" not in keys and "finder-2" in keys and "not closed" in left["words"]
    for key in keys:
        press(next_day, "pack", item=key, date=left["date"], site_id=left["site_id"])
    assert next_day.get("/api/eyepiece/packing").json()["left"] is None
    assert sitting(next_day)["packed"] == [], "they belong to the evening before"
    assert next_day.get("/api/eyepiece").json()["left_words"] == ""


def note(**values):
    return {"observed_at_utc": "2027-02-13T19:00:00Z", "object_name": "M42", **values}


def test_a_note_sent_twice_is_stored_once_and_none_is_overwritten(at):
    client = at()
    path = "/api/journal/observations"
    before = len(client.get(path).json())
    with ThreadPoolExecutor(4) as pool:
        sent = list(pool.map(lambda _: client.post(path, json=note(sent_key="n1", words="A")),
                             range(4)))  # fmt: skip
    assert {one.status_code for one in sent} == {201} and len(
        {one.json()["id"] for one in sent}
    ) == 1
    client.post(path, json=note(sent_key="n2", words="B"))
    client.post(path, json=note(words="C"))
    client.post(path, json=note(words="C"))
    words = [one["words"] for one in client.get(path).json()]
    assert len(words) == before + 4 and words.count("C") == 2


def test_what_was_not_seen_stays_unseen(at):
    client = at()
    for outcome in ("not seen", "glimpsed"):
        client.post("/api/journal/observations", json=note(object_name="M46", outcome=outcome))
        listed = client.get("/api/plan/target/m46").json()["prospect"]
        assert listed["is_noted"] is (outcome != "not seen")


def test_a_sketch_of_five_thousand_points_comes_back_as_drawn(at):
    client = at()
    strokes = [{"points": [n % 1000, -n % 1000] * 50, "pencil": "fine"} for n in range(100)]
    kept = client.post("/api/journal/observations", json=note(sketch=strokes)).json()
    assert kept["sketch"] == strokes
    outside = [{"points": [0, 1001]}]
    refused = client.post("/api/journal/observations", json=note(sketch=outside)).json()
    assert "1001" in refused["errors"][0]["detail"] and "round field" in refused["detail"]
    lots = [{"points": [0, 0] * 5001}] * 4
    assert client.post("/api/journal/observations", json=note(sketch=lots)).status_code == 422


def photo(kind="JPEG", **saved):
    image = Image.new("RGB", (60, 40), (200, 10, 10))
    image.paste((0, 0, 255), (0, 0, 10, 40))
    out = io.BytesIO()
    image.save(out, kind, **saved)
    return out.getvalue()


def test_a_picture_loses_everything_but_itself(at):
    client = at()
    exif = Image.Exif()
    exif[0x0112], exif[0x010F] = 6, "Somebody's Phone"  # to be turned; the maker
    exif.get_ifd(0x8825)[1] = "N"  # where it was taken
    data = photo(exif=exif, comment=b"secret")
    kept = client.post("/api/journal/pictures", content=data, headers=PICTURE)
    assert kept.status_code == 201 and (kept.json()["width"], kept.json()["height"]) == (40, 60)
    shown = client.get(f"/api/journal/pictures/{kept.json()['name']}")
    assert shown.headers["content-type"] == "image/jpeg"
    assert b"Somebody" not in shown.content and b"secret" not in shown.content
    assert not Image.open(io.BytesIO(shown.content)).getexif()
    assert client.post("/api/journal/pictures", content=data, headers=PICTURE).json() == kept.json()
    assert client.get("/api/journal/pictures/nothing").status_code == 404


@pytest.mark.parametrize(
    ("data", "status", "words"),
    [
        (b"<html><script>alert(1)</script>", 422, "JPEG, PNG or WebP"),
        (b"\xff\xd8\xff\xe0 no picture at all", 422, "JPEG, PNG or WebP"),
        (photo("PNG")[:60], 422, "JPEG, PNG or WebP"),
        (photo("GIF"), 422, "JPEG, PNG or WebP"),
        (b"", 422, "JPEG, PNG or WebP"),
        (b"\x00" * 20_000_000, 413, "smaller picture"),
    ],
    ids=["page", "lie", "cut", "other", "empty", "huge"],
)
def test_a_picture_that_is_none_is_refused_by_its_content(at, data, status, words):
    refused = at().post("/api/journal/pictures", content=data, headers=PICTURE)
    assert refused.status_code == status
    problem = refused.json()
    assert problem["errors"][0]["field"] == "picture" and words in str(problem["errors"][0])


def test_a_picture_of_too_many_pixels_is_refused(at):
    out = io.BytesIO()
    Image.new("1", (8000, 6000)).save(out, "PNG")
    refused = at().post("/api/journal/pictures", content=out.getvalue(), headers=PICTURE)
    assert refused.status_code == 422 and "million pixels" in refused.text


def test_nothing_of_a_rehearsal_reaches_the_evening(at):
    client = at("2027-02-13T12:30+01:00")
    path = "/api/journal/observations"
    before = client.get(path).json()
    assert client.post("/api/rehearsal", json={"rate": 121}).status_code == 422
    assert client.post("/api/rehearsal", json={"rate": 60}).headers["x-changed"] == "everything"
    evening = client.get("/api/evening").json()
    assert evening["clock"] == "rehearsal" and evening["rehearsal"] and evening["pace"] == 60
    client.put("/api/rehearsal/pace", json={"rate": 1})
    own = {"X-Rehearsal": evening["rehearsal"]}
    client.post("/api/rehearsal", json={"from_utc": "2027-02-13T20:00:00Z", "rate": 1})
    own = {"X-Rehearsal": client.get("/api/evening").json()["rehearsal"]}
    go = {"key": "r", "what": "go", "spot": spot("m42"), "rehearsal": own["X-Rehearsal"]}
    pressed = client.post("/api/eyepiece/press", headers=own, json=go)
    assert pressed.json()["spot"]["target_key"] == "m42"
    assert client.post(path, json=note(), headers=own).status_code == 201
    assert client.post(path, json=note(), headers={"X-Rehearsal": ""}).status_code == 412
    assert client.delete("/api/rehearsal").status_code == 204
    assert client.get(path).json() == before and sitting(client)["spot"] is None
    late = client.post(path, json=note(), headers=own)
    assert late.status_code == 412 and "rehearsal" in late.json()["detail"]
    assert client.get("/api/evening").json()["clock"] == "held"
    assert client.put("/api/rehearsal/pace", json={"rate": 2}).status_code == 422


def test_a_whole_run_by_a_running_clock_is_a_rehearsal_too(at):
    client = at("2027-02-13T20:00+01:00@60")
    client.post("/api/journal/observations", json=note(words="only rehearsed"))
    assert "only rehearsed" in client.get("/api/journal/observations").text
    assert client.delete("/api/rehearsal").status_code == 422
    assert "only rehearsed" not in at().get("/api/journal/observations").text


def test_presses_of_four_at_once_leave_one_consistent_evening(at, tmp_path):
    client = at()
    press(client, "go", "first", spot=spot("moon"))
    kinds = ("put", "focus", "centre", "look")

    def hand(number):
        db = connect(tmp_path / DATABASE_NAME)
        desk = read_desk(db, Now(parse_clock(NIGHT).now_utc()))
        for n in range(60):
            at_spot = spot("m42", kinds[(n + number) % 4], f"e{1 + n % 4}")
            given = Press(key=f"{number}-{n // 2}", what="go", spot=at_spot)
            sittings.press(db, desk.evening, 1, given, desk.moment_utc)
        db.close()

    with ThreadPoolExecutor(4) as pool:
        list(pool.map(hand, range(4)))
    db = connect(tmp_path / DATABASE_NAME)
    (heard,) = db.execute("SELECT count(*) FROM press").fetchone()
    (rows,) = db.execute("SELECT count(*) FROM sitting").fetchone()
    db.close()
    assert (heard, rows) == (4 * 30 + 1, 1)
    assert Sitting.model_validate(sitting(client)).spot.target_key == "m42"
