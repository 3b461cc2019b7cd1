"""Loops and ticks over HTTP: rounds are kept, learned from, and broken off."""

import numpy as np
import pytest

from tests.followers import finder_over_http, level_over_http
from tests.hands import Base, Sighted, align_it, level_it

from .test_api import refused
from .test_setup import choose, states

FAR = {"bearing_deg": 20, "far": "horizon"}


def steps(client):
    return {one["name"]: one for one in client.get("/api/setup").json()["steps"]}


def test_hands_that_follow_the_words_over_http(demo):
    """One evening, one telescope, base after base: what one taught does not mislead the next."""
    choose(demo, "Coot 110")
    rng = np.random.default_rng(5)
    for _ in range(6):
        assert level_it(Base(rng), level_over_http(demo)) is not None
    assert states(demo)["level"] == "done"
    choose(demo, "Heron 140")
    for _ in range(6):
        assert align_it(Sighted(rng, 3), finder_over_http(demo, 1, FAR)) is not None
    assert states(demo)["finder"] == "done"


ROUND = {"kind": "round", "bubble_divisions": 1.2, "bubble_azimuth_deg": 180}


def ask_level(client, divisions, query=""):
    body = {"reading": {**ROUND, "bubble_divisions": divisions}}
    return client.post(f"/api/setup/level{query}", json=body).json()


def test_a_round_is_kept_only_when_it_was_turned_and_ends_with_a_mishap(demo):
    choose(demo, "Coot 110")
    ask_level(demo, 1.2)
    assert ask_level(demo, 2.1)["learned"]["rounds"] == 0  # pointing is not turning
    ask_level(demo, 1.2, "?turned=true")
    worse = ask_level(demo, 2.1)
    assert worse["learned"]["verdict"] == "other_way" and worse["learned"]["rounds"] == 1
    demo.post("/api/setup/mishaps/knocked").raise_for_status()
    assert ask_level(demo, 2.1)["learned"]["verdict"] == "first"


def test_a_finder_remembers_on_another_evening_how_its_screws_act(demo):
    seen = {"finder_id": 1, "landmark": FAR, "seen_up": 0}
    first = demo.post("/api/setup/finder?turned=true", json={**seen, "seen_right": 0.3}).json()
    demo.post("/api/setup/finder?turned=true", json={**seen, "seen_right": 0.5})  # the other way
    choice = demo.get("/api/evening").json()["choice"]
    demo.patch("/api/evening", json={**choice, "date": "2027-02-14"})
    # another evening begins anew, yet turns as the screws were seen to act
    again = demo.post("/api/setup/finder", json={**seen, "seen_right": 0.3}).json()
    assert again["learned"]["verdict"] == "first"
    assert np.dot(again["round_"]["asked"], first["round_"]["asked"]) < 0


def test_putting_together_is_ticked_recorded_and_reopened_in_part(demo):
    choose(demo, "Wren 85")
    assembly = demo.get("/api/setup").json()["assembly"]
    parts = [one["part"] for one in assembly["parts"]]
    told = demo.post("/api/setup/assemble?turned=true", json={"done": parts[:2]}).json()
    assert told["next_part"] == parts[2] and states(demo)["assemble"] == "to_do"
    # another window, or the lid opened again, goes on where one was
    assert demo.get("/api/setup").json()["assembly"]["next_part"] == parts[2]
    taken_back = demo.post("/api/setup/assemble?turned=true", json={"undone": [parts[0]]}).json()
    assert taken_back["next_part"] == parts[0]
    demo.post("/api/setup/assemble?recorded=true", json={"done": parts}).raise_for_status()
    assert states(demo)["assemble"] == "done"
    demo.post("/api/setup/mishaps/tube_bumped").raise_for_status()
    bench = demo.get("/api/setup").json()
    waiting = [one["part"] for one in bench["assembly"]["parts"] if not one["is_done"]]
    assert states(demo)["assemble"] == "spoiled" and waiting == ["sight"]
    demo.post("/api/setup/steps/assemble/reopen")
    assert demo.get("/api/setup").json()["assembly"]["next_part"] == parts[0]
    problem = refused(demo.post("/api/setup/assemble", json={"done": ["wings"]}))
    assert (
        problem["errors"][0]["field"].startswith("done")
        and "'legs'" in problem["errors"][0]["allowed"]
    )


def test_power_waits_for_level_and_north(demo):
    choose(demo, "Coot 110")
    assert steps(demo)["power"]["waits_for"] == ["level", "north"]
    problem = refused(demo.post("/api/setup/steps/power/done"))
    assert problem["errors"][0]["cure"] == "Do level and north and pole first."
    ask_level(demo, 0.2, "?recorded=true")
    assert steps(demo)["power"]["waits_for"] == ["north"]
    demo.post("/api/setup/north?recorded=true", json={"method": "compass"}).raise_for_status()
    assert demo.post("/api/setup/steps/power/done").status_code == 200


def test_a_landmark_told_by_the_sun(demo):
    """At 17:10 the Sun stands at 244°, 5° up: what is left of it by a quarter stands at 154°."""
    sides = {one["words"]: one for one in demo.get("/api/setup/sun").json()["sides"]}
    assert sides["left of it"]["bearing_deg"] == pytest.approx(154, abs=1)
    assert {words for words, one in sides.items() if one["refused"]} == {"toward the Sun"}
    for words, one in sides.items():
        told = {"bearing_deg": one["bearing_deg"], "bearing_by": "sun", "far": "valley"}
        check = demo.post("/api/setup/landmark", json=told).json()
        assert check["refused"] == one["refused"], words
    # pointed by hand one may be 25° off: 50° beside the Sun is safe off a map only
    beside = {"bearing_deg": 294, "far": "valley"}
    assert not demo.post("/api/setup/landmark", json=beside).json()["refused"]
    by_sun = {**beside, "bearing_by": "sun"}
    assert demo.post("/api/setup/landmark", json=by_sun).json()["refused"]
    problem = refused(demo.post("/api/setup/landmark", json={"far": "valley"}))
    assert problem["errors"][0]["field"].endswith("bearing_deg")
    problem = refused(demo.post("/api/setup/landmark", json={"bearing_deg": 20}))
    assert problem["errors"][0]["field"] == "distance_m"


def test_a_height_in_words_is_every_altitude_it_may_be(demo):
    """Level with the low Sun at 17:10 and 33° beside it, a landmark is safe; high up it is too."""
    told = {"bearing_deg": 277, "far": "valley"}
    found = {
        word: demo.post("/api/setup/landmark", json={**told, "height": word}).json()["nearest_deg"]
        for word in ("level", "roof", "high")
    }
    assert found["level"] == pytest.approx(found["roof"], abs=1.5) and found["high"] > found["roof"]
    assert found["level"] < 33


def test_the_box_the_label_and_the_only_ones(client):
    assert client.get("/api/kit/label", params={"printed": "105480"}).json()["aperture_mm"] == 105
    box = {"printed": "105/480", "mount_kind": "yoke", "finder_kind": "dot", "eyepieces": "25, 10"}
    bad = refused(client.post("/api/kit/box", json={**box, "eyepieces": "250"}))
    assert bad["errors"][0]["field"] == "eyepieces"
    assert client.get("/api/kit/mounts").json() == []  # all or nothing
    made = client.post("/api/kit/box", json=box).json()
    (finder,) = client.get("/api/kit/finders").json()
    assert made["mount_id"] and finder["telescope_id"] == made["id"]
    assert [one["name"] for one in client.get("/api/kit/eyepieces").json()] == ["25 mm", "10 mm"]


def test_the_only_telescope_mount_and_finder_are_linked_by_themselves(client):
    tube = {"name": "T", "aperture_mm": 80, "focal_length_mm": 600, "design": "refractor"}
    client.post("/api/kit/finders", json={"name": "F", "kind": "dot"})
    client.post("/api/kit/telescopes", json=tube)
    client.post("/api/kit/mounts", json={"name": "M", "kind": "ball"})
    (telescope,), (finder,) = (
        client.get(f"/api/kit/{one}").json() for one in ("telescopes", "finders")
    )
    assert telescope["mount_id"] == 1 and finder["telescope_id"] == telescope["id"]
    client.post("/api/kit/telescopes", json={**tube, "name": "Second"})
    second = client.post("/api/kit/mounts", json={"name": "N", "kind": "yoke"}).json()
    assert all(one["mount_id"] != second["id"] for one in client.get("/api/kit/telescopes").json())


def test_places_by_plain_words(client):
    found = client.post("/api/evening/position", json={"text": "geo:-38.9,177.5"}).json()
    assert (found["latitude_deg"], found["longitude_deg"]) == (-38.9, 177.5)
    assert "Pacific/Auckland" in client.get("/api/evening/zones").json()
    questions = client.get("/api/evening/darkness").json()
    assert questions["most"]["little_bear"] == 7
    asked = {"milky_way": questions["milky_way"][1]["value"], "counted": 6}
    assert client.post("/api/evening/darkness", json=asked).json()["dark_sky_class"] == 6
    empty = refused(client.post("/api/evening/darkness", json={}))
    assert empty["errors"][0]["field"] == "milky_way"
