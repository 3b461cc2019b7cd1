"""The set-up bench over HTTP: recording, spoiling, refusals that cannot be got around."""

import asyncio
import json
import subprocess
import sys

import pytest

from jade_perch.api.app import create_app
from jade_perch.api.broker import Broker
from jade_perch.api.events import BEAT_S, events, tell_reading
from jade_perch.devices.clock import Clock, parse_clock
from jade_perch.devices.hub import InstrumentHub
from jade_perch.standins.instruments import InstrumentSettings
from tests.asking import LINES, asking, lay_out
from tests.drilling import answer_the_sun_drill, poster

from .test_api import refused

ROUND = {"kind": "round", "bubble_divisions": 0.4, "bubble_azimuth_deg": 90}
OPTIONS = ["--bearing", "10", "--iron", "7", "--noise", "0", "--rate", "60", "--count", "3"]
LEVEL = {"reading": ROUND, "foot_azimuths_deg": [0, 120, 240]}
SEEN = {"finder_id": 1, "seen_right": 0, "seen_up": 0}
NORTH_WEST = {"bearing_deg": 20, "distance_m": 800}
TOWARD_THE_SUN = {"bearing_deg": 240, "distance_m": 800}


def choose(client, telescope):
    owned = client.get("/api/kit/telescopes").json()
    number = next(one["id"] for one in owned if one["name"] == telescope)
    choice = client.get("/api/evening").json()["choice"]
    client.patch("/api/evening", json={**choice, "telescope_id": number})


def states(client):
    return {one["name"]: one["state"] for one in client.get("/api/setup").json()["steps"]}


def test_an_empty_house_has_no_bench_and_says_what_is_missing(client):
    assert client.get("/api/setup").json() is None
    problem = refused(client.post("/api/setup/level", json=LEVEL))
    assert problem["errors"][0]["allowed"] == "a telescope and a place"


def test_readings_are_kept_spoiled_and_opened_again(demo):
    choose(demo, "Coot 110")
    for step, body in (("level", LEVEL), ("north", {"method": "compass"})):
        assert demo.post(f"/api/setup/{step}", json=body).status_code == 200
        assert states(demo)[step] == "to_do"  # asking is not recording
        demo.post(f"/api/setup/{step}?recorded=true", json=body)
    demo.post("/api/setup/steps/power/done")
    assert [states(demo)[one] for one in ("level", "north", "power")] == ["done"] * 3
    marks = demo.get("/api/evening").json()["setup"]
    assert [one["title"] for one in marks] == ["Level", "North and pole", "Power on"]
    demo.post("/api/setup/level?recorded=true", json=LEVEL)  # read anew: what rests on it is open
    steps = {one["name"]: one for one in demo.get("/api/setup").json()["steps"]}
    assert (steps["level"]["state"], steps["north"]["state"]) == ("done", "spoiled")
    assert steps["north"]["spoiled_by"] == "level was done again"
    bench = demo.post("/api/setup/mishaps/base_moved").json()
    level = next(one for one in bench["steps"] if one["name"] == "level")
    assert level["state"] == "spoiled" and level["spoiled_by"] == "The base was moved or kicked"
    choose(demo, "Wren 85")
    assert set(states(demo).values()) == {"to_do"}  # each telescope has its own


def test_reopening_says_and_does_what_it_spoils(demo):
    choose(demo, "Dipper 77")
    demo.post("/api/setup/level?recorded=true", json=LEVEL)
    demo.post("/api/setup/north?recorded=true", json={"method": "shadow", "scale_deg": 48})
    steps = {one["name"]: one for one in demo.get("/api/setup").json()["steps"]}
    assert steps["level"]["spoils"] == ["north"]  # this mount needs no power
    demo.post("/api/setup/steps/level/reopen")
    assert (states(demo)["level"], states(demo)["north"]) == ("spoiled", "spoiled")
    assert demo.post("/api/setup/steps/nonsense/reopen").status_code == 422


def test_recorded_errors_shorten_the_budget(demo):
    choose(demo, "Dipper 77")
    demo.post("/api/setup/level?recorded=true", json=LEVEL)
    good = {"method": "landmark", "read_deg": 90, "known_deg": 90, "scale_deg": 48.7}
    demo.post("/api/setup/north?recorded=true", json=good)
    best = demo.get("/api/setup/budget").json()
    demo.post("/api/setup/north?recorded=true", json={**good, "read_deg": 84})
    worse = demo.get("/api/setup/budget").json()
    assert worse["gains"][0]["reading"] == "north" and worse["drive"] == "equatorial"
    last = len(best["rung_keys"]) - 1
    jupiter = [
        next(one for one in budget["targets"] if one["label"] == "Jupiter")
        for budget in (best, worse)
    ]
    assert jupiter[1]["worst_minutes"][last] < jupiter[0]["worst_minutes"][last]


def test_the_sun_refuses_and_nothing_gets_around_it(demo):
    """The demo evening at 17:10: the Sun stands at 244°, half an hour before it sets."""
    check = demo.post("/api/setup/landmark", json=TOWARD_THE_SUN).json()
    assert check["refused"] and check["allowed_from_utc"] == "2027-02-13T17:00:00Z"
    for path, body in (
        ("landmark?recorded=true", TOWARD_THE_SUN),
        ("finder", {**SEEN, "landmark": TOWARD_THE_SUN}),
        ("finder?recorded=true", {**SEEN, "landmark": TOWARD_THE_SUN}),
        ("finder", {**SEEN, "on": "star"}),
        ("finder", {**SEEN, "on": "star", "landmark": NORTH_WEST}),
    ):
        problem = refused(demo.post(f"/api/setup/{path}", json=body))
        assert problem["title"] == "Refused because of the Sun"
        # its disc sets at 17:48 from 420 m up; ten minutes' margin, and two in hand
        assert "18:00" in problem["errors"][0]["cure"]
    assert states(demo)["finder"] == "to_do" and states(demo)["sun"] == "to_do"
    moon = demo.post("/api/setup/finder", json={**SEEN, "on": "moon"})
    assert moon.status_code == 200  # it stands 62° up in the south-south-east
    back = {**SEEN, "landmark": NORTH_WEST, "main_tube": "still_there"}
    done = demo.post("/api/setup/finder?recorded=true", json=back)
    assert done.json()["is_done"] and states(demo)["finder"] == "done"
    for step in ("sun", "finder", "level"):  # a word is not enough for what has a reading
        assert refused(demo.post(f"/api/setup/steps/{step}/done"))["errors"][0]["field"] == "step"
    assert refused(demo.post("/api/setup/finder", json={**SEEN}))["errors"][0]["field"] == (
        "landmark"
    )


def test_a_solar_session_opens_only_through_the_checklist(demo):
    choose(demo, "Wren 85")
    board = demo.get("/api/setup/solar").json()
    every = list(board["checks"])
    filter_id = board["filters"][0]["id"]
    answer_the_sun_drill(poster(demo))
    overdue = refused(demo.post("/api/setup/solar", json={"filter_id": filter_id, "done": every}))
    assert "inspect it against a bright lamp" in overdue["detail"]
    task = next(one for one in demo.get("/api/kit/due").json() if "foil" in one["item_name"])
    upkeep = {**task["upkeep"], "id": None, "last_done": "2027-02-13"}
    demo.put(f"/api/kit/upkeeps/{task['upkeep']['id']}", json=upkeep)
    most = {"filter_id": filter_id, "done": every[:-1]}
    missing = refused(demo.post("/api/setup/solar", json=most))
    assert missing["errors"][0]["allowed"] == "every check of the list"
    moon_filter = {"filter_id": 1, "done": every}
    assert refused(demo.post("/api/setup/solar", json=moon_filter))["errors"][0]["field"] == (
        "filter_id"
    )
    opened = demo.post("/api/setup/solar", json={"filter_id": filter_id, "done": every}).json()
    assert opened["session"]["telescope_name"] == "Wren 85" and opened["forbids"]
    closed = demo.post("/api/setup/solar/close").json()
    assert closed["session"] is None and closed["forbids"] == []
    (logged,) = demo.get("/api/setup/solar/sessions").json()
    assert logged["closed_at_utc"] == "2027-02-13T16:10:00Z"
    demo.delete(f"/api/kit/upkeeps/{task['upkeep']['id']}")  # as if nobody had ever inspected it
    never = refused(demo.post("/api/setup/solar", json={"filter_id": filter_id, "done": every}))
    assert "no inspection is noted" in never["detail"]


def test_other_steps_answer_and_bad_values_name_their_field(demo):
    stand = demo.post("/api/setup/stand", json={"people_ids": [2]}).json()
    assert [one["name"] for one in stand["people"]] == ["Tam Okoro-Lind"]
    bench = demo.get("/api/setup").json()
    air = {name: bench["forecast"][name] for name in ("air_c", "humidity_percent")}
    cool = {"weather": air, "tube_c": 20, "out_at_utc": "2027-02-13T16:10:00Z"}
    assert demo.post("/api/setup/cool", json=cool).json()["minutes_left"] > 30
    for path, body, field in (
        ("stand", {"lowest_altitude_deg": 60, "highest_altitude_deg": 30}, "highest_altitude_deg"),
        ("balance", {"extra_g": 1e9}, "extra_g"),
        ("landmark", {"bearing_deg": 20, "distance_m": 1}, "distance_m"),
        ("landmark", {"bearing_deg": 20, "distance_m": 500, "bearing_by": "ear"}, "bearing_by"),
        ("north", {"method": "drift", "drift_arcmin": 3}, "drift_minutes"),
        ("cool", {**cool, "weather": {"air_c": 5, "humidity_percent": 0}}, "humidity_percent"),
        (
            "focus",
            {"eyepiece_id": 1, "landmark": {"bearing_deg": 1, "distance_m": "far"}},
            "distance_m",
        ),
        ("focus", {"eyepiece_id": 1, "on": "landmark"}, "landmark"),
        ("level", {**LEVEL, "reading": {**ROUND, "sensitivity_arcmin": 0}}, "sensitivity_arcmin"),
        ("solar/shadow", {"shadow_length_mm": -1, "shadow_width_mm": 90}, "shadow_length_mm"),
    ):
        problem = refused(demo.post(f"/api/setup/{path}", json=body))
        assert problem["errors"][0]["field"].endswith(field), path
    assert demo.post("/api/setup/focus", json={"eyepiece_id": 99}).status_code == 404


def test_the_card_is_one_page_of_pdf_for_every_telescope(demo):
    for telescope in ("Heron 140", "Wren 85", "Coot 110", "Dipper 77"):
        choose(demo, telescope)
        answer = demo.get("/api/setup/card.pdf")
        assert answer.headers["content-type"] == "application/pdf"
        assert answer.content.startswith(b"%PDF-") and answer.content.count(b"/Type /Page\n") == 1
    tube = demo.get("/api/kit/telescopes").json()[0]
    name = "Żółw 140″ → Δ"  # letters the card has, and signs it has to write otherwise
    demo.put("/api/kit/telescopes/1", json={**tube, "id": None, "name": name})
    choose(demo, name)
    assert demo.get("/api/setup/card.pdf").status_code == 200


def told_by(event):
    """What one server-sent event tells; a first line may say how soon to ask again."""
    return json.loads(event[event.index("data: ") + 6 :])


class Ears:
    """Pages that listen to one application's stream, without waiting for it."""

    def __init__(self):
        self.broker = Broker()
        self.hub = InstrumentHub(lambda shown: tell_reading(self.broker, shown))

    async def _hear(self, count):
        shown = []
        async for event in events(self.broker, self.hub, Clock(), ["level"]):
            told = told_by(event)
            if told["topic"] == "instrument":
                shown.append(told["shown"])
            if len(shown) == count:
                break
        return shown

    def heard(self, count, pages=1):
        async def listen():
            return await asyncio.gather(*(self._hear(count) for _ in range(pages)))

        answers = asyncio.run(listen())
        return answers if pages > 1 else answers[0]


def test_the_clock_is_told_while_an_instrument_never_pauses():
    """Sixty readings a second for at most ten seconds; a fast clock is due every second."""

    async def listen():
        hub = InstrumentHub(lambda shown: tell_reading(broker, shown))
        hub.settings["level"] = InstrumentSettings(rate_hz=60)
        readings = 0
        async for event in events(broker, hub, clock, ["level"]):
            topic = told_by(event)["topic"]
            if topic == "clock":
                return readings
            readings += topic == "instrument"
            assert readings < 600
        return 0

    broker, clock = Broker(), parse_clock("2027-02-13T17:10+01:00@60")
    assert asyncio.run(listen()) > 1


def test_the_stream_drops_nothing_and_a_fed_device_is_judged():
    ears = Ears()
    hub, heard = ears.hub, ears.heard
    hub.settings["level"] = InstrumentSettings(along_deg=1, noise_deg=0, rate_hz=60)
    shown = heard(20)
    assert [one["seq"] for one in shown] == list(range(20)) and shown[-1]["missed"] == 0
    assert shown[-1]["state"] == "steady" and shown[-1]["values"] == [1.0, -0.2]
    good = '{"instrument":"level","seq":0,"along_deg":0.5,"across_deg":0}'
    hub.feed("level", [good, "nonsense"])
    device = heard(2)
    assert [one["state"] for one in device] == ["moving", "rubbish"]
    hub.settings["level"] = InstrumentSettings(fault="stops", rate_hz=60)
    hub.unplug("level")
    assert heard(1)[0]["state"] == "silent"


def test_something_comes_every_second_when_there_is_nothing_to_tell():
    async def listen():
        broker = Broker()
        async with asyncio.timeout(60):
            stream = events(broker, InstrumentHub(), Clock(), [])
            return [told_by(await anext(stream))["topic"] for _ in range(3)]

    assert asyncio.run(listen()) == ["hello", "alive", "alive"]
    assert BEAT_S < 2.2  # what the page waits for before it says that nobody is there


def test_two_pages_on_one_device_both_get_every_reading():
    ears = Ears()
    line = '{{"instrument":"level","seq":{},"along_deg":0.5,"across_deg":0}}'
    ears.hub.feed("level", [line.format(n) for n in range(120)])
    for page in ears.heard(120, pages=2):
        assert [one["seq"] for one in page] == list(range(120))


LIVE = {
    "reading": {"kind": "axes", "along_deg": 0.2, "across_deg": 0, "source": "live"},
    "foot_azimuths_deg": [0, 120, 240],
}


def test_what_a_stand_in_reads_is_practice_or_nothing(demo):
    """Beside every figure stands the word, and nothing of it is recorded as measured."""
    choose(demo, "Coot 110")
    told = demo.post("/api/setup/level", json=LIVE).json()
    assert told["simulated"] == "level" and told["instruction"].startswith("Simulated: ")
    assert all("(simulated)" in one["result"] for one in told["sums"])
    north = {"method": "compass", "read_deg": 356, "source": "live"}
    for path, body in (("level", LIVE), ("north", north), ("cool", {})):
        problem = refused(demo.post(f"/api/setup/{path}?recorded=true", json=body))
        assert problem["errors"][0]["field"] == "as_practice", path
        assert states(demo)[path] == "to_do"
        practice = f"/api/setup/{path}?recorded=true&as_practice=true"
        assert demo.post(practice, json=body).status_code == 200
    steps = {one["name"]: one for one in demo.get("/api/setup").json()["steps"]}
    assert {name: steps[name]["simulated"] for name in ("level", "north", "cool")} == {
        "level": "level", "north": "compass", "cool": "weather",
    }  # fmt: skip
    assert steps["level"]["words"] == "Simulated level: Leans 12′, low toward foot 2."
    assert steps["north"]["words"].startswith("Simulated compass: North ")
    assert steps["cool"]["words"].startswith("Simulated weather: Cools about ")
    assert steps["power"]["built_on_simulated"] == "level and compass"
    assert refused(demo.post("/api/setup/steps/power/done"))["errors"][0]["field"] == "as_practice"
    assert demo.post("/api/setup/steps/power/done?as_practice=true").status_code == 200
    budget = demo.get("/api/setup/budget").json()
    assert budget["simulated"] == "level and north" and "practice only" in budget["detail"]
    assert "(simulated)" in budget["sums"][0]["worked"]
    marks = demo.get("/api/evening").json()["setup"]
    assert all(one["simulated"] for one in marks)
    typed = {**LIVE, "reading": {**LIVE["reading"], "source": "typed"}}
    again = demo.post("/api/setup/level?recorded=true", json=typed).json()
    assert again["simulated"] == "" and again["tilt"]["doubt_arcmin"] == 12  # a phone's
    assert demo.get("/api/setup/budget").json()["simulated"] == ""  # north rested on the level


@pytest.mark.parametrize(("extra", "simulated"), [({}, ""), ({"simulated": True}, "level")])
def test_a_real_device_is_believed_and_one_that_says_it_is_simulated_is_not(demo, extra, simulated):
    hub = demo.app.state.instruments
    line = {"instrument": "level", "seq": 0, "along_deg": 0.2, "across_deg": 0, **extra}
    hub.feed("level", [json.dumps(line)])

    async def heard():
        shown = []
        hub.tell = shown.append
        with hub.listening(["level"]):
            while not shown:
                await asyncio.sleep(0)
        return shown[0]

    assert asyncio.run(heard()).is_simulated is bool(simulated)
    told = demo.post("/api/setup/level?recorded=true&as_practice=true", json=LIVE).json()
    assert told["simulated"] == simulated


def test_devices_are_fed_over_http_and_stand_ins_set(demo):
    settings = demo.get("/api/setup/instruments/level").json()
    changed = demo.put("/api/setup/instruments/level", json={**settings, "along_deg": 2})
    assert changed.json()["along_deg"] == 2
    line = '{"instrument":"level","seq":0,"along_deg":0.5,"across_deg":0}\n'
    fed = demo.post("/api/setup/instruments/level/lines", content=line * 3, headers=LINES)
    assert fed.json() == {"waiting": 3}
    problem = refused(demo.put("/api/setup/instruments/level", json={"rate_hz": 1000}))
    assert problem["errors"][0]["field"] == "rate_hz"


def test_the_stand_in_runs_as_a_process_of_its_own():
    command = [sys.executable, "-m", "jade_perch.cli", "instrument", "compass"]
    made = subprocess.run(
        [*command, *OPTIONS], capture_output=True, text=True, check=True,
    )  # fmt: skip
    lines = [json.loads(line) for line in made.stdout.splitlines()]
    assert [one["bearing_deg"] for one in lines] == [17.0] * 3
    wrong = subprocess.run([*command, "--rate", "0"], capture_output=True, text=True)
    assert wrong.returncode == 2 and "rate_hz is '0'; allowed is 1 to 60" in wrong.stderr


@pytest.mark.parametrize("latitude", [0.0, 89.0, -89.0, 90.0])
def test_every_step_answers_at_the_ends_of_the_earth(demo, latitude):
    choice = demo.get("/api/evening").json()["choice"]
    place = {"name": "End", "latitude_deg": latitude, "longitude_deg": 0, "zone": "UTC"}
    made = demo.post("/api/evening/sites", json=place).json()
    for telescope in ("Coot 110", "Dipper 77"):
        choose(demo, telescope)
        choice = demo.get("/api/evening").json()["choice"]
        demo.patch("/api/evening", json={**choice, "site_id": made["id"]})
        for path in ("", "/north", "/budget", "/sun", "/solar", "/card.pdf"):
            assert demo.get(f"/api/setup{path}").status_code == 200, path


@pytest.mark.parametrize("clock", ["1950-06-01T12:00+00:00", "2031-01-01T18:00+00:00"])
def test_outside_the_magnetic_models_years_everything_else_still_works(tmp_path, clock):
    lay_out(tmp_path, is_demo=True)
    client = asking(create_app(tmp_path, parse_clock(clock)))
    choose(client, "Dipper 77")
    board = client.get("/api/setup/north").json()
    assert board["magnetic"] is None
    assert "2025-01-01 to 2029-12-31" in board["magnetic_words"]
    assert board["polaris"] is not None and board["shadow"]["noon_utc"] is not None
    for path in ("", "/budget", "/sun", "/solar", "/card.pdf"):
        assert client.get(f"/api/setup{path}").status_code == 200, path
    done = client.post("/api/setup/north?recorded=true", json={"method": "polaris"})
    is_night = clock.startswith("2031")
    assert (done.status_code == 200) == is_night  # by day no star is there to aim at
    assert states(client)["north"] == ("done" if is_night else "to_do")


def test_a_night_that_is_planned_for_later_keeps_its_own_readings(demo):
    choose(demo, "Coot 110")
    demo.post("/api/setup/level?recorded=true", json=LEVEL)
    choice = demo.get("/api/evening").json()["choice"]
    demo.patch("/api/evening", json={**choice, "date": "2027-02-20"})
    assert demo.get("/api/setup").json()["evening_date"] == "2027-02-20"
    assert states(demo)["level"] == "to_do" and demo.get("/api/evening").json()["setup"] == []
    demo.patch("/api/evening", json={**choice, "date": None})
    assert states(demo)["level"] == "done"


def test_a_mount_named_later_changes_which_steps_are_needed(demo):
    choose(demo, "Heron 140")
    assert "north" not in states(demo)
    tube = demo.get("/api/kit/telescopes").json()[0]
    mounts = demo.get("/api/kit/mounts").json()
    motor = next(one["id"] for one in mounts if one["kind"] == "altaz_motor")
    demo.put("/api/kit/telescopes/1", json={**tube, "id": None, "mount_id": motor})
    tube = demo.get("/api/kit/telescopes").json()[0]
    assert (states(demo)["north"], states(demo)["power"]) == ("to_do", "to_do")
    demo.put("/api/kit/telescopes/1", json={**tube, "id": None, "mount_id": None})
    bench = demo.get("/api/setup").json()
    assert bench["mount_is_assumed"] and bench["mount"]["kind"] == "altaz"


def test_a_bench_without_eyepieces_or_finders_still_stands(demo):
    for path in ("eyepieces", "finders"):
        for one in demo.get(f"/api/kit/{path}").json():
            demo.delete(f"/api/kit/{path}/{one['id']}")
    bench = demo.get("/api/setup").json()
    assert bench["eyepieces"] == [] and bench["finders"] == []
    assert bench["longest_eyepiece_id"] is None
    assert demo.get("/api/setup/budget").json() is None
    assert demo.get("/api/setup/card.pdf").status_code == 200
    for step, body in (("stand", {}), ("balance", {"caps_on": True})):
        assert demo.post(f"/api/setup/{step}", json=body).status_code == 200
