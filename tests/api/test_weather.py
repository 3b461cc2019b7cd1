"""Weather over HTTP: simulated hours, a file in their place, hours typed over, who reads them."""

import json

import jsonschema
import pytest

from tests.asking import CSV

from .test_api import refused

URL = "/api/plan/weather"
HEAD = "hour_utc,cloud_percent,wind_m_s,humidity_percent,air_c,steadiness\n"
NIGHT = [f"2027-02-13T{hour}:00Z" for hour in range(15, 24)]
CLEAR = HEAD + "".join(f"{at},5,3,70,-2,2\n" for at in NIGHT)


def outlook(client):
    return client.get(URL).json()["outlook"]


def hour(client, at):
    hours = outlook(client)["hours"]
    return next(one["hour"] for one in hours if one["hour"]["hour_utc"][:13] == at[:13])


def read(client, text, **more):
    query = "&".join(f"{key}={value}" for key, value in more.items())
    return client.post(f"{URL}/file?{query}", content=text.encode(), headers=CSV)


def test_no_place_no_weather(client):
    assert client.get(URL).json() is None
    assert refused(read(client, CLEAR))["errors"][0]["field"] == "place"
    assert refused(client.get(f"{URL}/hours.csv"))["errors"][0]["field"] == "place"


def test_a_file_takes_the_place_of_the_simulation_and_goes_again(demo):
    simulated = outlook(demo)
    assert simulated["is_simulated"] and simulated["reasons"]
    before = demo.get("/api/setup").json()["forecast"]
    assert before["source"] == "simulated"
    preview = demo.post(f"{URL}/file-preview", content=CLEAR.encode(), headers=CSV).json()
    assert preview["taken"] == 9 and not preview["applied"] and outlook(demo) == simulated
    assert read(demo, CLEAR, name="night.csv").json()["applied"]
    told = demo.get(URL).json()
    assert not told["outlook"]["is_simulated"] and told["files"][0]["name"] == "night.csv"
    assert told["outlook"]["words"] == "Clear from dusk until 01:00."
    after = demo.get("/api/setup").json()["forecast"]
    assert (after["source"], after["air_c"], after["humidity_percent"]) == ("file", -2, 70)
    air = next(
        one for one in demo.get("/api/powers/ladders").json()[0]["ceilings"] if one["name"] == "air"
    )
    assert "steadiness 2 of 5 by the weather hours" in air["words"]
    file_id = told["files"][0]["id"]
    assert demo.delete(f"{URL}/files/{file_id}").status_code == 204
    assert outlook(demo) == simulated
    assert demo.post(f"{URL}/files/{file_id}/restore").status_code == 204
    assert outlook(demo) == told["outlook"]


def test_one_bad_row_keeps_the_file_out(demo):
    before = outlook(demo)
    report = read(demo, CLEAR + "2027-02-14T00:00Z,500,3,70,-2,2\n").json()
    assert report["refused"] == 1 and not report["applied"]
    assert report["rows"][9]["problems"][0]["field"] == "cloud_percent"
    assert outlook(demo) == before


def test_the_cool_down_and_the_hours_say_the_same(demo):
    cool = demo.post("/api/setup/cool", json={"tube_c": 20}).json()
    assert cool["simulated"] == "weather"
    read(demo, CLEAR)
    cool = demo.post("/api/setup/cool", json={"tube_c": 20}).json()
    assert cool["simulated"] == "" and cool["dew_words"].startswith("By the weather file for 17:00")
    now = next(
        one for one in outlook(demo)["hours"] if one["hour"]["hour_utc"][:13] == NIGHT[1][:13]
    )
    assert cool["dew_point_c"] == pytest.approx(now["dew_point_c"])


def type_over(client, at, version=None, **values):
    return client.put(f"{URL}/hours/{at}", json={"version": version, **values})


def test_an_hour_typed_over_keeps_the_rest_and_two_windows_do_not_overwrite(demo):
    at = NIGHT[4]
    before = hour(demo, at)
    assert type_over(demo, at, cloud_percent=0, air_c=-5).status_code == 204
    assert (
        type_over(demo, NIGHT[5], wind_m_s=1).headers["X-Changed"] == "evening"
    )  # for all to read
    typed = hour(demo, at)
    assert (typed["cloud_percent"], typed["air_c"]) == (0, -5)
    assert typed["wind_m_s"] == before["wind_m_s"]
    assert typed["typed"] == ["cloud_percent", "air_c"] and typed["typed_version"] == 1
    stale = type_over(demo, at, cloud_percent=50)
    assert stale.status_code == 409
    assert {one["field"] for one in stale.json()["errors"]} == {"cloud_percent", "air_c"}
    assert stale.json()["stored"]["air_c"] == -5
    assert type_over(demo, at, version=1, cloud_percent=0, air_c=-5).status_code == 204  # twice
    assert hour(demo, at)["typed_version"] == 1
    assert type_over(demo, at, version=1).status_code == 204  # all taken away
    assert hour(demo, at) == before
    assert type_over(demo, at, cloud_percent=20).status_code == 204
    assert hour(demo, at)["typed_version"] == 1


@pytest.mark.parametrize(
    ("at", "values", "field"),
    [
        ("2027-02-13T20:30Z", {}, "hour_utc"),
        ("2027-02-13T20:00", {}, "hour_utc"),
        (NIGHT[0], {"cloud_percent": 101}, "cloud_percent"),
        (NIGHT[0], {"steadiness": 0}, "steadiness"),
        (NIGHT[0], {"rain": 1}, "rain"),
    ],
)
def test_a_typed_hour_is_refused_by_its_field(demo, at, values, field):
    problem = refused(type_over(demo, at, **values))
    assert problem["errors"][0]["field"].endswith(field) and problem["errors"][0]["cure"]


def test_hours_of_one_place_are_not_anothers(demo):
    other = demo.get("/api/evening/sites").json()[1]
    read(demo, CLEAR)
    type_over(demo, NIGHT[2], wind_m_s=1)
    demo.patch("/api/evening", json={"site_id": other["id"]})
    assert outlook(demo)["is_simulated"] and demo.get(URL).json()["files"] == []


def test_what_is_saved_reads_back(demo):
    read(demo, CLEAR)
    saved = demo.get(f"{URL}/hours.csv").text
    document = demo.get(f"{URL}/hours.json").content
    assert saved.count("\r\n") > 20
    jsonschema.validate(json.loads(document), demo.get(f"{URL}/schema.json").json())
    for text, kind in ((saved.encode(), "csv"), (document, "json")):
        url = f"{URL}/file-preview?file_type={kind}"
        report = demo.post(url, content=text, headers=CSV).json()
        assert report["refused"] == 0 and report["taken"] == saved.count("\r\n") - 1
