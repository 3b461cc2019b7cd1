"""Station plan over HTTP: places with their skyline, the list, the night, the calendar."""

import pytest

from tests.asking import CSV, demo_house

from .test_api import refused

WALL = [{"azimuth_deg": a, "altitude_deg": h} for a, h in ((0, 90), (100, 90), (101, 0), (359, 0))]


def site_of(client):
    return client.get("/api/evening").json()["site"]


def test_a_skyline_is_kept_and_tonight_is_told_by_it(demo):
    site = site_of(demo)
    assert len(site["skyline"]) == 13 and len(site["light_domes"]) == 1
    at_nine = "2027-02-13T20:00:00Z"
    before = demo.get(f"/api/plan/tonight?at_utc={at_nine}").json()["prospects"]
    east = [one for one in before if one["when"] == "now" and one["azimuth_deg"] < 100]
    assert east
    changed = demo.put(f"/api/evening/sites/{site['id']}", json={**site, "skyline": WALL})
    assert changed.json()["skyline"] == WALL and site_of(demo)["skyline"] == WALL
    after = demo.get(f"/api/plan/tonight?at_utc={at_nine}").json()["prospects"]
    assert not [one for one in after if one["when"] == "now" and one["azimuth_deg"] < 100]


def test_a_place_refuses_by_the_field_and_keeps_what_it_had(demo):
    site = site_of(demo)
    url = f"/api/evening/sites/{site['id']}"
    high = refused(
        demo.put(url, json={**site, "skyline": [{"azimuth_deg": 1, "altitude_deg": 91}]})
    )
    assert "altitude_deg" in high["errors"][0]["field"]
    wide = [{"azimuth_deg": 10, "width_deg": 200, "brighter_mag": 1}]
    assert "5 to 180" in refused(demo.put(url, json={**site, "light_domes": wide}))["detail"]
    many = [{"azimuth_deg": 10, "width_deg": 20, "brighter_mag": 1}] * 13
    assert "12 domes" in refused(demo.put(url, json={**site, "light_domes": many}))["detail"]
    assert "2 to 8" in refused(demo.put(url, json={**site, "naked_eye_limit_mag": 9}))["detail"]
    assert site_of(demo) == site


def test_files_are_read_and_nothing_is_stored(demo):
    site = site_of(demo)
    exported = demo.get("/api/plan/place/skyline.csv")
    read = demo.post("/api/plan/place/skyline", content=exported.content, headers=CSV).json()
    assert read["skyline"] == site["skyline"]
    for name in ("places.gpx", "places.geojson"):
        file = demo.get(f"/api/plan/place/{name}").content
        places = demo.post("/api/plan/place/positions", content=file, headers=CSV).json()["places"]
        assert places[0]["name"] == "Larkstone Common"
    large = refused(
        demo.post("/api/plan/place/positions", content=b"<" * 2_000_001, headers=CSV), 413
    )
    assert large["errors"][0]["value"] == "2000001 bytes"
    assert site_of(demo) == site


def test_the_list_is_told_for_any_moment_of_the_night_and_no_other(demo):
    told = demo.get("/api/plan/tonight?at_utc=2027-02-13T22:00:00Z").json()["tonight"]
    assert told["at_utc"] == "2027-02-13T22:00:00Z" and told["at_is_now"] is False
    wrong = refused(demo.get("/api/plan/tonight?at_utc=2027-02-20T22:00:00Z"))
    assert wrong["errors"][0]["field"] == "at_utc" and "2027-02-14" in wrong["detail"]
    assert "offset" in refused(demo.get("/api/plan/tonight?at_utc=2027-02-13T22:00:00"))["detail"]


def test_one_target_is_told_whole_by_any_of_its_names(demo):
    by_number = demo.get("/api/plan/target/NGC 1952").json()
    assert by_number["prospect"]["target"]["key"] == "m1" and by_number["sum"]["rule"] == "seen"
    assert refused(demo.get("/api/plan/target/sun"))["errors"][0]["field"] == "target"


def test_the_night_and_the_calendar(demo):
    night = demo.get("/api/plan/night?at_utc=2027-02-13T20:00:00Z").json()
    assert {one["body"] for one in night["planets"]} >= {"jupiter", "saturn", "mars"}
    assert {one["name"] for one in night["jupiter"]} == {"Io", "Europa", "Ganymede", "Callisto"}
    assert {one["passage"] for one in night["events"]} == {"transit", "shadow"}
    calendar = demo.get("/api/plan/calendar").json()
    assert len(calendar["nights"]) == 60 and calendar["best_words"].startswith("Best 1 to 9 Mar")
    assert "BEGIN:VEVENT" in demo.get("/api/plan/calendar.ics?nights=5").text
    refused(demo.get("/api/plan/calendar?nights=500"))


@pytest.mark.parametrize("path", ["tonight", "target/moon", "night", "calendar"])
def test_without_a_place_there_is_no_answer_and_no_error(client, path):
    assert client.get(f"/api/plan/{path}").json() is None


def test_without_a_place_no_file_is_made(client):
    for path in ("calendar.ics", "place/skyline.csv"):
        assert "place" in refused(client.get(f"/api/plan/{path}"))["errors"][0]["field"]


def test_at_the_end_of_the_ephemeris_the_calendar_says_so(demo):
    demo.patch("/api/evening", json={"date": "2053-09-20"})
    assert "2053" in refused(demo.get("/api/plan/calendar"))["detail"]
    assert demo.get("/api/plan/tonight").status_code == 200


def blocks(client):
    return [one for one in client.get("/api/plan/schedule").json()["blocks"] if one["item_id"]]


def test_a_plan_is_kept_with_its_evening(demo):
    assert demo.get("/api/evening").json()["planned_from_utc"] is None
    assert (
        demo.post("/api/plan/schedule", json={"target_keys": ["M35", "NGC 1952"]}).status_code
        == 204
    )
    assert {one["target_key"] for one in blocks(demo)} == {"m35", "m1"}
    demo.post("/api/plan/schedule", json={"target_keys": ["m35", "jupiter"]})  # once is enough
    assert len(demo.get("/api/plan/items").json()) == 3
    demo.patch("/api/evening", json={"date": "2027-02-20"})
    assert blocks(demo) == []
    demo.patch("/api/evening", json={"date": "2027-02-13"})
    assert len(blocks(demo)) == 3


def test_a_plan_takes_what_it_can_hold_and_nothing_unknown(demo):
    unknown = demo.post("/api/plan/schedule", json={"target_keys": ["m35", "nonsense"]})
    assert refused(unknown)["errors"][0]["field"] == "target"
    assert demo.get("/api/plan/items").json() == []  # all or nothing
    many = [f"NGC {n}" for n in range(7000, 7090)]
    too_many = demo.post("/api/plan/schedule", json={"target_keys": many})
    assert "target_keys" in refused(too_many)["errors"][0]["field"]
    refused(demo.post("/api/plan/items", json={"target_key": "m35", "minutes": 0}))


def test_an_evening_is_filled_on_wish_and_planned_again_from_now(demo):
    demo.post("/api/plan/schedule", json={"target_keys": []})
    assert 3 <= len(blocks(demo)) <= 8
    assert demo.post("/api/plan/schedule/again").status_code == 204
    assert demo.get("/api/evening").json()["planned_from_utc"] == "2027-02-13T16:10:00Z"


def test_two_windows_change_a_block_and_neither_is_lost(demo):
    demo.post("/api/plan/schedule", json={"target_keys": ["m35"]})
    (item,) = demo.get("/api/plan/items").json()
    url = f"/api/plan/items/{item['id']}"
    assert demo.put(url, json={**item, "minutes": 30}).json()["version"] == 2
    late = demo.put(url, json={**item, "is_skipped": True})
    assert late.status_code == 409 and late.json()["stored"]["minutes"] == 30


def test_without_a_place_nothing_is_planned(client):
    assert client.get("/api/plan/schedule").json() is None
    for path in ("schedule", "schedule/again"):
        refused(client.post(f"/api/plan/{path}", json={"target_keys": ["m35"]}))


def test_a_plan_does_not_move_because_time_passes(tmp_path):
    """The same wishes, asked again an hour and three quarters later."""

    told = []
    for time in ("17:10", "18:55"):
        with demo_house(tmp_path, f"2027-02-13T{time}+01:00") as client:
            if not told:
                keys = ["saturn", "m42", "uranus"]
                client.post("/api/plan/schedule", json={"target_keys": keys})
            told.append([(one["label"], one["starts_utc"]) for one in blocks(client)])
    assert told[0] == told[1] and len(told[0]) == 3
