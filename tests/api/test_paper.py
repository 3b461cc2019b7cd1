"""The plan on paper and in files: pages counted, words on them, round trips, refusals."""

import io
import json
import re
import zlib

import jsonschema
import pytest
from icalendar import Calendar

from tests.asking import CSV

from .test_api import refused

KEYS = ["moon", "jupiter", "m42", "m45", "m31", "m35", "castor", "saturn", "m81", "m1", "m44",
        "crater copernicus"]  # fmt: skip
URL = "/api/plan/schedule"


@pytest.fixture
def planned(demo):
    demo.post(URL, json={"target_keys": KEYS})
    return demo


def pages(pdf):
    return len(re.findall(rb"/Type /Page\b", pdf))


def box_mm(pdf):
    found = re.search(rb"/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]", pdf)
    return tuple(round(float(one) * 25.4 / 72) for one in found.groups())


def drawn(pdf):
    """What the pages draw, unpacked."""
    parts = re.findall(rb"/FlateDecode.*?stream\r?\n(.*?)\r?\nendstream", pdf, re.S)
    found = []
    for part in parts:
        try:
            found.append(zlib.decompress(part))
        except zlib.error:
            continue
    return b"".join(one for one in found if b" re" in one or b" l\n" in one or b" c\n" in one)


@pytest.mark.parametrize(("paper", "size"), [("A4", (210, 297)), ("A5", (148, 210))])
def test_three_targets_a_page_on_either_paper(planned, paper, size):
    count = sum(one["kind"] == "target" for one in planned.get(URL).json()["blocks"])
    pdf = planned.get(f"/api/plan/cards.pdf?paper={paper}")
    assert pdf.headers["content-type"] == "application/pdf"
    assert "attachment" in pdf.headers["content-disposition"]
    assert pages(pdf.content) == -(-count // 3) and box_mm(pdf.content) == size
    assert planned.get(f"/api/plan/cards.pdf?paper={paper}").content == pdf.content
    sky = planned.get(f"/api/plan/sky.pdf?paper={paper}").content
    assert pages(sky) == 1 and box_mm(sky) == size


GREY = re.compile(rb"(?<![\d.])0\.\d+ g\b")


@pytest.mark.parametrize("page", ["cards", "sky"])
def test_nothing_on_a_page_for_the_red_torch_is_grey_or_coloured(planned, page):
    plain = drawn(planned.get(f"/api/plan/{page}.pdf").content)
    torch = drawn(planned.get(f"/api/plan/{page}.pdf?for_torch=true").content)
    assert GREY.search(plain) and not GREY.search(torch)
    assert not re.search(rb"\brg\b", torch, re.I)


def test_without_a_plan_there_are_no_cards_and_without_a_place_no_sky(client, demo):
    problem = refused(demo.get("/api/plan/cards.pdf"))
    assert problem["errors"][0]["field"] == "plan" and "Plan the evening" in problem["detail"]
    assert demo.get("/api/plan/sky.pdf").status_code == 200
    site = demo.get("/api/evening").json()["site"]
    for one in demo.get("/api/evening/sites").json():
        demo.delete(f"/api/evening/sites/{one['id']}")
    assert site
    for path in ("cards.pdf", "sky.pdf", "schedule.csv", "schedule.json", "schedule.ics"):
        assert refused(demo.get(f"/api/plan/{path}"))["errors"][0]["field"] == "place"


@pytest.mark.parametrize(
    ("query", "field"),
    [
        ("paper=A3", "paper"),
        ("for_torch=maybe", "for_torch"),
        ("at_utc=2027-02-20T20:00:00Z", "at_utc"),
        ("at_utc=2027-02-13T20:00:00", "at_utc"),
    ],
)
def test_a_page_that_cannot_be_says_why(planned, query, field):
    assert refused(planned.get(f"/api/plan/sky.pdf?{query}"))["errors"][0]["field"] == field


def test_cards_of_the_eye_alone_and_of_an_empty_kit(client):
    place = {"name": "P", "latitude_deg": 48, "longitude_deg": 8, "zone": "Europe/Berlin"}
    client.post("/api/evening/sites", json=place)
    client.post(URL, json={"target_keys": ["moon", "m45"]})
    assert pages(client.get("/api/plan/cards.pdf").content) == 1


def test_the_calendar_has_an_event_for_each_block(planned):
    blocks = planned.get(URL).json()["blocks"]
    events = Calendar.from_ical(planned.get(f"{URL}.ics").content).walk("VEVENT")
    assert [str(one["SUMMARY"]) for one in events] == [one["label"] for one in blocks]
    assert len({str(one["UID"]) for one in events}) == len(blocks)
    first = events[0]["DTSTART"].dt
    assert f"{first:%Y-%m-%dT%H:%M:%SZ}" == blocks[0]["starts_utc"]


def send(client, content, kind, path="file"):
    url = f"{URL}/{path}?file_type={kind}"
    return client.post(url, content=content, headers=CSV)


def wishes(client):
    """What is wished for, by target; ids and versions belong to their database."""
    listed = json.loads(client.get(f"{URL}.json").content)["wishes"]
    return {one["target_key"]: one for one in listed}


def alter(client, key, **values):
    one = next(i for i in client.get("/api/plan/items").json() if i["target_key"] == key)
    assert client.put(f"/api/plan/items/{one['id']}", json={**one, **values}).status_code == 200


def test_a_plan_read_back_wishes_the_same(planned):
    alter(planned, "m42", minutes=35)
    alter(planned, "m45", is_skipped=True)
    alter(planned, "jupiter", pinned_utc="2027-02-13T20:30:00Z")
    before, plan = wishes(planned), planned.get(URL).json()
    document, table = planned.get(f"{URL}.json").content, planned.get(f"{URL}.csv").content
    for one in planned.get("/api/plan/items").json():
        planned.delete(f"/api/plan/items/{one['id']}")
    assert wishes(planned) == {}
    preview = send(planned, document, "json", "file-preview").json()
    assert preview["taken"] == len(KEYS) and not preview["applied"] and wishes(planned) == {}
    assert send(planned, document, "json").json()["applied"]
    assert wishes(planned) == before
    again = planned.get(URL).json()
    starts = [(one["target_key"], one["starts_utc"]) for one in again["blocks"]]
    assert starts == [(one["target_key"], one["starts_utc"]) for one in plan["blocks"]]
    # the table says the minutes each block got, so those are said from now on
    assert send(planned, table, "csv").json()["applied"]
    after = wishes(planned)
    assert set(after) == set(before)
    assert after["m45"]["is_skipped"] and after["m42"]["minutes"] == 35
    assert after["jupiter"]["pinned_utc"] == "2027-02-13T20:30:00Z"


@pytest.mark.parametrize(
    ("wish", "field", "allowed"),
    [
        ({"target_key": "nowhere"}, "target", "Moon, planets"),
        ({"target_key": "sun"}, "target", "Moon, planets"),
        ({"target_key": "m42", "minutes": 1}, "minutes", "5 to 180"),
        ({"target_key": "m42", "pinned_utc": "2027-03-13T20:30:00Z"}, "at_utc", "2027-02-13"),
        ({"target_key": "M 44"}, "target_key", "each target once"),
        ({"minutes": 10}, "target_key", "a value"),
        ({"target_key": "m42", "note": "="}, "note", "only known fields"),
    ],
)
def test_one_bad_wish_keeps_the_whole_file_out(demo, wish, field, allowed):
    mark = {"format": "jade-perch-plan", "version": 1}
    document = json.dumps({**mark, "wishes": [{"target_key": "m44"}, wish]}).encode()
    report = send(demo, document, "json").json()
    assert report["refused"] == 1 and not report["applied"] and wishes(demo) == {}
    problem = report["rows"][1]["problems"][0]
    assert problem["field"] == field and allowed in problem["allowed"] and problem["cure"]


def test_more_targets_than_a_plan_takes_change_nothing(planned):
    keys = [f"m{n}" for n in range(46, 84)]
    mark = {"format": "jade-perch-plan", "version": 1}
    document = json.dumps({**mark, "wishes": [{"target_key": key} for key in keys]}).encode()
    before = wishes(planned)
    assert "up to 40 targets" in refused(send(planned, document, "json"))["detail"]
    assert wishes(planned) == before


def test_the_plan_document_is_as_its_schema_says(planned):
    schema = planned.get(f"{URL}/schema.json").json()
    document = planned.get(f"{URL}.json").json()
    assert set(document) == set(schema["properties"])
    jsonschema.validate(document, schema)
    wish = schema["properties"]["wishes"]["items"]
    assert all(set(one) == set(wish["properties"]) for one in document["wishes"])
    block = schema["$defs"]["Block"]["properties"]
    assert all(set(one) == set(block) for one in document["plan"]["blocks"])
    assert io.StringIO(planned.get(f"{URL}.csv").text).readline().startswith("starts_utc,ends_utc")


def test_a_line_cut_short_is_refused_by_its_place(demo):
    head = "starts_utc,ends_utc,minutes,kind,target_key\n"
    report = send(demo, f"{head},,,,m42\n2027-02-13T20:00Z,\n".encode(), "csv").json()
    assert report["refused"] == 1 and report["rows"][1]["problems"][0]["field"] == "row"
    assert report["rows"][1]["line"] == 3 and wishes(demo) == {}
