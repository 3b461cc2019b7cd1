"""The journal's routes: search, lists and logs, everything out and in, copies, promises kept."""

import csv
import io
import json
import time
import zipfile
from datetime import date

import pytest

from jade_perch.api.app import create_app
from jade_perch.core.errors import OutOfRange
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.devices.clock import parse_clock
from jade_perch.devices.keeper import Keeper
from jade_perch.exchange.archive import FILES
from jade_perch.exchange.award_files import COLUMNS
from jade_perch.exchange.list_csv import read_list
from jade_perch.exchange.tables import defused
from jade_perch.store.copies import list_copies
from tests.asking import CSV, asking

from .test_api import refused

NOTE = {"object_name": "M42", "observed_at_utc": "2027-02-13T15:00:00Z", "zone": "Europe/Berlin"}
EVERYTHING = "/api/journal/everything"


def note(client, **more):
    made = client.post("/api/journal/observations", json=NOTE | more)
    assert made.status_code == 201, made.text
    return made.json()


def packed(client):
    assert client.post(f"{EVERYTHING}/pack").status_code == 200
    return client.get(f"{EVERYTHING}/everything.zip").content


def sent(client, content):
    zip_type = {"Content-Type": "application/zip"}
    answer = client.post(f"{EVERYTHING}/upload", content=content, headers=zip_type)
    assert answer.status_code == 201, answer.text
    return answer.json()["key"]


def test_search_says_how_many_and_refuses_what_is_no_question(demo):
    found = demo.get("/api/journal/search", params={"text": "moon crescent"}).json()
    assert (found["count"], found["is_all"]) == (0, True)
    found = demo.get("/api/journal/search", params={"text": "belts", "kind": "planet"}).json()
    assert [one["object_name"] for one in found["rows"]] == ["Jupiter"]
    for wrong in ({"text": "x" * 201}, {"kind": "comet"}, {"outcome": "maybe"}, {"since": "soon"}):
        problem = refused(demo.get("/api/journal/search", params=wrong))
        assert problem["errors"][0]["field"] in wrong


@pytest.mark.parametrize(
    "at", ["1899-12-31T23:59:59Z", "2027-02-15T00:00:00Z", "9999-12-31T00:00:00Z"]
)
def test_a_note_of_an_impossible_time_is_refused_with_what_is_allowed(client, at):
    problem = refused(client.post("/api/journal/observations", json=NOTE | {"observed_at_utc": at}))
    (error,) = problem["errors"]
    assert error["field"] == "observed_at_utc" and "1900-01-01" in error["allowed"]
    assert client.get("/api/journal/evenings").json()["bars"] == []


def test_old_notes_nobodys_objects_and_script_are_kept_as_they_are(client):
    words = '<script>alert(1)</script> & "quoted" ' + "word " * 700
    kept = note(client, object_name="Fuzzy thing of 1934", words=words.strip(),
                observed_at_utc="1934-05-01T21:00:00Z")  # fmt: skip
    assert client.get(f"/api/journal/observations/{kept['id']}").json()["words"] == words.strip()
    (bar,) = client.get("/api/journal/evenings").json()["bars"]
    assert bar["date"] == "1934-05-01" and bar["shape"] is None
    found = client.get("/api/journal/search", params={"text": "1934 script"}).json()
    assert found["rows"][0]["words"].endswith("…") and len(found["rows"][0]["words"]) <= 240
    assert client.get("/api/journal/evenings/99").status_code == 404


def test_an_evening_opens_with_its_readings_people_and_weather(demo):
    people = demo.get("/api/evening/observers").json()
    change = {"people_ids": [people[0]["id"]], "steadiness": 4, "faintest_seen_mag": 5.7}
    demo.patch("/api/evening", json=change)
    demo.post("/api/setup/level?recorded=true", json={"kind": "straight", "first_divisions": 0,
              "first_azimuth_deg": 0, "second_divisions": 0, "vial_divisions": 2})  # fmt: skip
    hour = {"cloud_percent": 30, "air_c": -2}
    assert demo.put("/api/plan/weather/hours/2027-02-13T15:00:00Z", json=hour).status_code == 204
    note(demo, outcome="seen", site_name="Larkstone Common")
    bar = demo.get("/api/journal/evenings").json()["bars"][0]
    told = demo.get(f"/api/journal/evenings/{bar['evening_id']}").json()
    assert bar["words"] == "1 note, 1 seen" and bar["date"] == "2027-02-13"
    assert told["sentences"] == [
        f"With {people[0]['name']}.",
        "Judged that evening: steadiness 4 of 5, faintest star 5.7 mag.",
        "Weather as told for 16:00: cloud 30 %, -2 °C.",
    ]


def test_what_was_promised_is_kept_with_a_note_and_only_where_it_is_known(demo):
    at = {"observed_at_utc": "2027-02-13T16:05:00Z", "outcome": "seen", "glass": "18 mm",
          "telescope_name": "Heron 140", "site_name": "Larkstone Common"}  # fmt: skip
    dark = at | {"observed_at_utc": "2027-02-13T21:00:00Z"}
    seen = note(demo, **dark)
    assert 0.5 < seen["predicted_margin"] < 4
    faint = note(demo, **(dark | {"object_name": "NGC 2022"}))
    assert faint["predicted_margin"] < seen["predicted_margin"]
    unknown = (
        {"glass": "a lens"}, {"object_name": "Moon"}, {"outcome": None},
        {"telescope_name": "Borrowed"}, {"object_name": "Dim 9"},
    )  # fmt: skip
    for change in unknown:
        assert note(demo, **(dark | change))["predicted_margin"] is None
    assert note(demo, **at)["predicted_margin"] is None  # the Sun is still up
    path = f"/api/journal/observations/{seen['id']}"
    form = {name: value for name, value in seen.items() if name != "predicted_margin"} | {
        "id": None
    }
    mended = demo.put(path, json=form | {"words": "Mended."}).json()
    assert mended["predicted_margin"] == seen["predicted_margin"]  # no form sends it back
    other = form | {"glass": "5 mm", "version": mended["version"], "predicted_margin": 9.0}
    assert demo.put(path, json=other).json()["predicted_margin"] is None
    claimed = note(demo, **(dark | {"glass": "", "predicted_margin": 3.5}))
    assert claimed["predicted_margin"] is None  # nobody says it but the application


def test_lists_progress_and_what_is_left(demo):
    lists = {one["key"]: one for one in demo.get("/api/journal/lists").json()}
    assert lists["planets"]["seen"] == 2
    assert lists["classic"]["words"].startswith("11 of 110 seen, 2 of them glimpsed, 3 tried")
    ahead = demo.get("/api/journal/lists/planets/ahead").json()
    assert ahead["place_name"] == "Larkstone Common" and ahead["telescope_name"] == "Heron 140"
    left = {one["target_key"] for one in ahead["rows"]}
    assert left == {"mercury", "venus", "saturn", "uranus", "neptune"}
    south = next(
        one for one in demo.get("/api/evening/sites").json() if one["name"] == "Pumice Bay"
    )
    there = demo.get(f"/api/journal/lists/planets/ahead?site_id={south['id']}").json()
    assert there["place_name"] == "Pumice Bay" and there["rows"] != ahead["rows"]
    assert "a list of your own" in refused(demo.get("/api/journal/lists/none/ahead"))["detail"]
    assert demo.get("/api/journal/lists/planets/ahead?site_id=99").status_code == 404


def test_a_list_of_ones_own_is_read_reported_kept_and_taken_out(demo):
    text = "no,object,note\n1,M 51,big\n2,Nowhere 7,\n3,whirlpool galaxy,again\n"
    report = demo.post("/api/journal/lists/check?name=mine.csv", content=text, headers=CSV).json()
    assert [one["outcome"] for one in report["rows"]] == [
        "is M51 Whirlpool Galaxy", "is not in the catalogue; kept by name",
        "stands above already; left out here",
    ]  # fmt: skip
    assert (report["taken"], report["refused"], report["applied"]) == (2, 0, False)
    assert demo.post("/api/journal/lists?name=mine.csv", content=text, headers=CSV).json()[
        "applied"
    ]
    note(demo, object_name="NOWHERE-7")
    mine = demo.get("/api/journal/lists").json()[-1]
    assert (mine["title"], [one["state"] for one in mine["marks"]]) == ("mine", ["open", "seen"])
    assert refused(demo.post("/api/journal/lists?name=MINE.csv", content=text, headers=CSV), 409)
    assert refused(demo.post("/api/journal/lists/check?name=mine", content=text, headers=CSV), 409)
    gone = f"/api/journal/lists/{mine['list_id']}"
    assert demo.delete(gone).status_code == 204
    assert demo.get(f"/api/journal/lists/{mine['key']}/log.csv").status_code == 422
    assert demo.post(f"{gone}/restore").json()["key"] == mine["key"]


@pytest.mark.parametrize(
    ("data", "words"),
    [(b"", "empty"), (b"\n \n", "empty"), (b"\xff\xfe", "UTF-8"), (b"name\n", "no names"),
     (b'name\n"M31', "line"), (b"name\n" + b"".join(b"X%d\n" % n for n in range(2001)), "2001")],
)  # fmt: skip
def test_a_file_that_is_no_list_is_refused_whole(data, words):
    with pytest.raises(OutOfRange, match=words):
        read_list(data, catalogue())


def test_a_row_too_long_refuses_the_list_and_is_named(client):
    text = f"M31\n{'long ' * 30}\n"
    report = client.post("/api/journal/lists?name=x", content=text, headers=CSV).json()
    assert not report["applied"] and report["rows"][1]["problems"][0]["field"] == "name"
    assert len(client.get("/api/journal/lists").json()) == 4


def test_a_log_in_csv_runs_no_formula_and_in_pdf_shows_every_entry(demo):
    note(demo, object_name="Saturn", words="=HYPERLINK(1)", outcome="seen")
    note(demo, object_name="Venus", outcome="not seen", words="@cloud")
    text = demo.get("/api/journal/lists/planets/log.csv").text
    rows = list(csv.DictReader(io.StringIO(text)))
    assert tuple(rows[0]) == COLUMNS and [one["number"] for one in rows] == list("1234567")
    by_name = {one["object"]: one for one in rows}
    assert by_name["Saturn"]["description"] == "'=HYPERLINK(1)"
    assert by_name["Saturn"]["time"] == "16:00 CET"
    assert by_name["Venus"]["date"] == "" == by_name["Mercury"]["description"]
    pdf = demo.get("/api/journal/lists/classic/log.pdf")
    assert pdf.content.startswith(b"%PDF") and pdf.content.count(b"/Type /Page\n") == 5
    assert [defused(one) for one in ("-1", "\tx", "M31", "a=b")] == ["'-1", "'\tx", "M31", "a=b"]


def test_everything_goes_out_and_comes_into_an_empty_and_a_filled_house(demo, tmp_path):
    words = note(demo, words="=1+1 and more", sketch=[{"points": [1, 2, 3, 4]}])["words"]
    content = packed(demo)
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        names = set(archive.namelist())
        assert names == {"manifest.json", "observations.csv", *FILES.values()}
        rows = list(csv.DictReader(io.StringIO(archive.read("observations.csv").decode())))
        assert [one["description"] for one in rows if one["description"].endswith("more")] == [
            f"'{words}"
        ]
    clock = parse_clock("2027-02-13T17:10+01:00")
    with asking(create_app(tmp_path / "other", clock)) as other:
        mine = note(other, object_name="M1", words="mine")
        key = sent(other, content)
        report = other.post(f"{EVERYTHING}/check?key={key}").json()
        assert report["refused"] == 0 and report["taken"] > 20 and not report["applied"]
        assert len(other.get("/api/journal/observations").json()) == 1  # only tried
        elsewhere = other.post(f"{EVERYTHING}/keep?key=an-older-one")
        assert "another one" in refused(elsewhere)["detail"]  # sent by a second page meanwhile
        assert other.post(f"{EVERYTHING}/keep?key={key}").json()["applied"]
        assert other.get(f"/api/journal/observations/{mine['id']}").json()["words"] == "mine"
        assert len(other.get("/api/journal/observations").json()) == 21
        key = sent(other, content)
        again = other.post(f"{EVERYTHING}/check?key={key}").json()
        assert again["taken"] == 0 and again["words"] == "Everything in it is here already."


def test_one_wrong_line_keeps_everything_out(demo, client):
    with zipfile.ZipFile(io.BytesIO(packed(demo))) as archive:
        members = {name: archive.read(name) for name in archive.namelist()}
    lines = members["observation.jsonl"].splitlines()
    lines[1] = lines[1].replace(b'"zone":"Europe/Berlin"', b'"zone":"Europe/Nowhere"')
    members["observation.jsonl"] = b"\n".join(lines) + b"\n"
    members["eyepiece.jsonl"] = members["eyepiece.jsonl"].replace(b"Wide 30", b"Brand new")
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, content in members.items():
            archive.writestr(name, content)
    key = sent(demo, out.getvalue())
    for step in ("check", "keep"):
        report = demo.post(f"{EVERYTHING}/{step}?key={key}").json()
        assert not report["applied"] and report["refused"] == 1
        wrong = report["rows"][-1]
        assert wrong["name"] == "observations, line 2" and wrong["problems"][0]["field"] == "zone"
    assert "Brand new" not in demo.get("/api/kit/eyepieces").text
    assert demo.get("/api/journal/search?text=belts").json()["count"] == 1  # the index is whole


def test_nothing_sent_and_a_broken_zip_are_clear_errors(client):
    for step in ("check", "keep"):
        assert "Choose the file" in refused(client.post(f"{EVERYTHING}/{step}?key=x"))["detail"]
    assert "Pack it first" in refused(client.get(f"{EVERYTHING}/everything.zip"))["detail"]
    key = sent(client, b"PK\x03\x04 half of something")
    assert "whole zip file" in refused(client.post(f"{EVERYTHING}/check?key={key}"))["detail"]
    assert client.get(f"{EVERYTHING}/progress").json() == {
        "doing": "nothing",
        "done": 0,
        "total": 0,
    }


def test_the_published_schema_takes_every_line_that_goes_out(demo):
    note(demo, outcome="seen")
    schema = demo.get(f"{EVERYTHING}/schema").json()
    with zipfile.ZipFile(io.BytesIO(packed(demo))) as archive:
        for name, one in schema["files"].items():
            for text in archive.read(name).decode().splitlines():
                line = json.loads(text)
                assert set(line) <= set(one["properties"]), name
                assert set(one.get("required", [])) <= set(line), name


def test_the_days_copy_is_made_at_the_start_and_its_place_is_told(tmp_path):
    with asking(create_app(tmp_path, parse_clock("2027-02-13T17:10+01:00"))) as client:
        deadline = time.monotonic() + 60
        while not list_copies(tmp_path) and time.monotonic() < deadline:
            client.get(f"{EVERYTHING}/copies")
        told = client.get(f"{EVERYTHING}/copies").json()
    (copy,) = told["copies"]
    assert copy["path"].startswith(told["folder"]) and copy["size_bytes"] > 10_000
    assert copy["day"] != "2027-02-13"  # by the real calendar, whatever evening is held
    assert told["failed_words"] == ""


def test_a_copy_that_fails_is_said_and_tried_again():
    made = []

    def make(day, _sleep):
        made.append(day)
        if len(made) == 1:
            raise OSError(28, "No space left on device")

    keeper = Keeper(make, lambda: date(2027, 2, 13))
    keeper.look()
    assert "No space left" in keeper.failed.words
    keeper.look()
    assert keeper.failed is None and made == [date(2027, 2, 13)] * 2


def test_lessons_offer_and_change_nothing(demo):
    dark = {
        "observed_at_utc": "2027-02-13T21:00:00Z", "glass": "18 mm", "telescope_name": "Heron 140",
        "site_name": "Larkstone Common", "observer_name": "Ilse Marrow",
    }  # fmt: skip
    for n in range(20):
        outcome = "seen" if n % 4 else "glimpsed"
        note(
            demo, **dark, object_name=("NGC 2022", "M1", "NGC 2392", "M78")[n % 4], outcome=outcome
        )
    before = demo.get("/api/evening/observers").json()
    lessons = {one["key"]: one for one in demo.get("/api/journal/lessons").json()}
    assert lessons["eyes"]["rows"][0]["records"] == 20
    assert demo.get("/api/evening/observers").json() == before
    for offer in lessons["eyes"]["offers"]:
        person = next(one for one in before if one["id"] == offer["observer_id"])
        changed = person | {"id": None, "field_factor": offer["field_factor"]}
        taken = demo.put(f"/api/evening/observers/{person['id']}", json=changed)
        assert taken.status_code == 200


def test_the_ladder_goes_by_the_notes_and_says_so(demo):
    demo.patch("/api/evening", json={"steadiness": 3})
    ruled = air(demo)
    for n in range(11):  # and one of Rigel stands already
        at = f"2027-02-{1 + n % 4:02d}T20:{n:02d}:00Z"
        used = {"telescope_name": "Heron 140", "magnification": 101, "steadiness": 3}
        note(demo, object_name="Jupiter", observed_at_utc=at, outcome="seen", **used)
    learned = air(demo)
    assert ruled["magnification"] > 110 and learned["magnification"] == pytest.approx(101, abs=0.5)
    assert "12 of your notes in such air end at 101×" in learned["words"]
    jupiter = demo.get("/api/plan/target/jupiter").json()
    assert "In air like this 12 of your notes end at 101×" in json.dumps(
        jupiter, ensure_ascii=False
    )
    case = demo.get("/api/powers/case?telescope_id=1").json()
    assert case["learned_words"] == "It ends at 101×, as 12 of your notes in such air."
    steps = demo.get("/api/eyepiece").json()["air"]["steady_steps"]
    assert steps[2]["effect"] == "up to about 101×, by 12 notes" and "by" not in steps[3]["effect"]
    demo.patch("/api/evening", json={"steadiness": 5})
    assert "notes" not in air(demo)["words"]  # of other air they say nothing


def air(client):
    ladder = next(
        one
        for one in client.get("/api/powers/ladders").json()
        if one["telescope_name"] == "Heron 140"
    )
    return next(one for one in ladder["ceilings"] if one["name"] == "air")


def test_use_at_the_eyepiece_makes_cells_due(demo):
    finder = next(one for one in demo.get("/api/kit/finders").json() if "Dot" in one["name"])
    task = next(one for one in demo.get("/api/kit/upkeeps").json() if one["item_kind"] == "finder")
    changed = task | {"id": None, "last_done": "2027-02-10", "every_uses": 2}
    demo.put(f"/api/kit/upkeeps/{task['id']}", json=changed)
    name = finder["name"]
    assert name not in [one["item_name"] for one in demo.get("/api/kit/due").json()]
    for day in (11, 12):
        note(demo, observed_at_utc=f"2027-02-{day}T20:00:00Z", telescope_name="Heron 140",
             site_name="Larkstone Common")  # fmt: skip
    (due,) = [one for one in demo.get("/api/kit/due").json() if one["item_name"] == name]
    assert "used on 2 evenings since" in due["words"] and due["due_since_days"] == 1


def test_what_is_rehearsed_neither_goes_out_nor_takes_anything_in(demo):
    content = packed(demo)
    begun = {"from_utc": "2027-02-13T20:00:00Z", "rate": 1}
    assert demo.post("/api/rehearsal", json=begun).status_code < 300
    note(demo, object_name="M13", words="only rehearsed")
    with zipfile.ZipFile(io.BytesIO(packed(demo))) as archive:
        assert b"only rehearsed" not in archive.read("observation.jsonl")
    key = sent(demo, content)
    refusal = refused(demo.post(f"{EVERYTHING}/keep?key={key}"))
    assert "End the rehearsal first" in refusal["detail"]


def test_numbers_beyond_what_is_counted_are_refused_not_broken(client):
    paths = (
        f"evenings/{2**63}", f"observations/{2**70}", f"lists/own-{10**20}/ahead", "evenings/0",
        f"evenings?before_date=2027-01-01&before_id={2**64}",
    )  # fmt: skip
    for path in paths:
        assert client.get(f"/api/journal/{path}").status_code in (404, 422)
