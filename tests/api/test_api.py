"""The HTTP layer: bad input ends in problem details, and nothing stored is lost."""

import json
import math
from datetime import UTC, datetime, timedelta

import pytest

from jade_perch.devices.clock import Clock
from tests.asking import CSV, asking

TUBE = {"name": "Tube", "aperture_mm": 100, "focal_length_mm": 900, "design": "refractor"}
GLASS = {"name": "Glass", "focal_length_mm": 20, "apparent_field_deg": 60}
ZOOM = {"zoom_to_focal_length_mm": 8, "zoom_to_apparent_field_deg": 60}
SITE = {"name": "Here", "latitude_deg": 48.7, "longitude_deg": 8.1, "zone": "Europe/Berlin"}


def refused(response, status=422):
    assert response.status_code == status, response.text
    assert response.headers["content-type"] == "application/problem+json"
    problem = response.json()
    assert problem["status"] == status and "Traceback" not in response.text
    return problem


@pytest.mark.parametrize(
    ("path", "base", "field", "value", "part"),
    [
        ("kit/telescopes", TUBE, "aperture_mm", 0, "20 to 2000 mm"),
        ("kit/telescopes", TUBE, "aperture_mm", -100, "20 to 2000 mm"),
        ("kit/telescopes", TUBE, "aperture_mm", 1e9, "20 to 2000 mm"),
        ("kit/telescopes", TUBE, "aperture_mm", "wide", "20 to 2000 mm"),
        ("kit/telescopes", TUBE, "aperture_mm", None, "20 to 2000 mm"),
        ("kit/telescopes", TUBE, "focal_length_mm", 20000, "200 to 4000 mm"),
        ("kit/telescopes", TUBE, "obstruction_percent", 30, "0 % for a refractor"),
        ("kit/telescopes", TUBE, "focuser_barrel_in", "3", "'2'"),
        ("kit/telescopes", TUBE, "name", "  ", "1 to 80 characters"),
        ("kit/telescopes", TUBE, "colour", "white", "only known fields"),
        ("kit/telescopes", TUBE, "mask_opening_mm", 100, "less than the aperture of 100 mm"),
        ("kit/telescopes", TUBE, "obstruction_percent", 61, "0 to 60 %"),
        ("kit/eyepieces", GLASS | ZOOM, "zoom_to_focal_length_mm", 20, "less than 20 mm"),
        ("kit/eyepieces", GLASS, "field_stop_mm", 33, "27 mm in a 1.25 in barrel"),
        ("kit/eyepieces", GLASS, "barrel_in", "1.5", "'1.25'"),
        ("evening/sites", SITE, "latitude_deg", 91, "-90 to 90"),
        ("evening/sites", SITE, "zone", "CEST", "IANA"),
        ("evening/sites", SITE, "zone", "../../etc/passwd", "IANA"),
        (
            "journal/observations",
            {"object_name": "Moon", "observed_at_utc": "2027-02-13T18:00:00Z"},
            "observed_at_utc",
            "2027-02-13T18:00:00",
            "offset",
        ),
    ],
)
def test_bad_values_name_field_value_range_and_cure(client, path, base, field, value, part):
    problem = refused(client.post(f"/api/{path}", json={**base, field: value}))
    error = next(e for e in problem["errors"] if e["field"] == field)
    assert part in error["allowed"]
    assert error["cure"]
    assert client.get(f"/api/{path}").json() == []


@pytest.mark.parametrize("word", ["NaN", "Infinity", "-Infinity"])
def test_numbers_json_does_not_know(client, word):
    text = json.dumps(TUBE).replace("100", word)
    headers = {"Content-Type": "application/json"}
    problem = refused(client.post("/api/kit/telescopes", content=text, headers=headers))
    assert problem["errors"][0]["field"] == "aperture_mm"


def test_broken_json_and_missing_fields(client):
    headers = {"Content-Type": "application/json"}
    broken = refused(client.post("/api/kit/telescopes", content=b"{oops", headers=headers))
    assert broken["errors"][0]["field"] == "body"
    empty = refused(client.post("/api/kit/telescopes", json={}))
    assert {e["field"] for e in empty["errors"]} == {
        "name",
        "aperture_mm",
        "focal_length_mm",
        "design",
    }


def test_a_taken_name_and_a_missing_item(client):
    assert client.post("/api/kit/telescopes", json=TUBE).status_code == 201
    taken = refused(client.post("/api/kit/telescopes", json={**TUBE, "name": "tube"}), 409)
    assert taken["errors"][0]["field"] == "name"
    refused(client.put("/api/kit/telescopes/99", json={**TUBE, "name": "Other"}), 404)
    refused(client.delete("/api/kit/eyepieces/99"), 404)
    refused(client.get("/api/nowhere"), 404)


def test_a_reference_to_nothing_names_its_field(demo):
    lost = refused(demo.post("/api/kit/telescopes", json={**TUBE, "mount_id": 99}))
    assert [e["field"] for e in lost["errors"]] == ["mount_id"]
    note = {"telescope_id": 1, "from_eyepiece_id": 1, "to_eyepiece_id": 1, "shift_mm": 1}
    same = refused(demo.post("/api/setup/parfocals", json=note))
    assert same["errors"][0]["field"] == "to_eyepiece_id"
    gone = refused(demo.post("/api/setup/parfocals", json={**note, "to_eyepiece_id": 99}))
    assert "to_eyepiece_id" in [e["field"] for e in gone["errors"]]
    assert demo.get("/api/setup/parfocals").json() == []


@pytest.mark.parametrize("date", ["1600-01-01", "2100-01-01", "1899-08-01", "tomorrow"])
def test_dates_outside_the_ephemeris_are_refused_before_storing(demo, date):
    before = demo.get("/api/evening").json()["choice"]
    problem = refused(demo.patch("/api/evening", json={**before, "date": date}))
    assert problem["errors"][0]["field"] == "date"
    assert demo.get("/api/evening").json()["choice"] == before


@pytest.mark.parametrize("date", ["1899-08-03", "2053-09-29"])
def test_the_first_and_last_night_of_the_ephemeris(demo, date):
    for site in (1, 2):
        answer = demo.patch("/api/evening", json={"site_id": site, "date": date})
        assert answer.status_code == 200, answer.text
        assert answer.json()["night"]["date"] == date


def test_a_huge_file_is_answered_and_forgotten(demo):
    before = demo.get("/api/kit/export.csv").text
    problem = refused(demo.post("/api/kit/import", content=b"x" * 50_000_000, headers=CSV), 413)
    assert problem["errors"][0]["value"] == "50000000 bytes"
    unannounced = demo.post(
        "/api/kit/import", content=(b"x" * 500_000 for _ in range(9)), headers=CSV
    )
    refused(unannounced, 413)
    assert demo.get("/api/kit/export.csv").text == before


def test_one_broken_row_imports_nothing(demo):
    before = demo.get("/api/kit/export.csv").text
    text = "item,name,factor\namplifier,Tripler,3\namplifier,Wrong,99\n"
    report = demo.post("/api/kit/import", content=text.encode(), headers=CSV).json()
    assert (report["new"], report["refused"], report["applied"]) == (1, 1, False)
    assert demo.get("/api/kit/export.csv").text == before


def test_what_does_not_agree_is_refused_typed_or_imported(demo):
    """A stop no eyepiece can have, a diagonal too wide, one on a Newtonian: nothing is stored."""
    before = demo.get("/api/kit/export.csv").text
    glass = {"name": "Ten", "focal_length_mm": 10, "field_stop_mm": 27}
    assert refused(demo.post("/api/kit/eyepieces", json=glass))["errors"][0]["field"] == (
        "field_stop_mm"
    )
    wide = demo.post("/api/kit/diagonals", json={"name": "Wide one", "barrel_in": "2"}).json()
    for change in ({"focuser_barrel_in": "1.25"}, {"design": "newtonian"}):
        tube = {**TUBE, "diagonal_id": wide["id"], **change}
        problem = refused(demo.post("/api/kit/telescopes", json=tube))
        assert problem["errors"][0]["field"] == "diagonal_id"
    demo.delete(f"/api/kit/diagonals/{wide['id']}")
    head = "item,name,focal_length_mm,field_stop_mm,aperture_mm,design,diagonal_name,barrel_in\n"
    rows = "eyepiece,Ten,10,27,,,,\ndiagonal,Big,,,,,,2\ntelescope,T,900,,100,refractor,Big,\n"
    report = demo.post("/api/kit/import", content=(head + rows).encode(), headers=CSV).json()
    assert [row["outcome"] for row in report["rows"]] == ["refused", "new", "refused"]
    assert not report["applied"] and demo.get("/api/kit/export.csv").text == before


def test_export_into_an_empty_database_and_out_again(demo, client, tmp_path_factory):

    from jade_perch.api.app import create_app
    from jade_perch.devices.clock import Clock

    text = demo.get("/api/kit/export.csv").content
    other = asking(create_app(tmp_path_factory.mktemp("other"), Clock()))
    report = other.post("/api/kit/import", content=text, headers=CSV).json()
    assert (report["new"], report["applied"]) == (29, True)
    assert other.get("/api/kit/export.csv").content == text


def test_an_empty_house_answers_every_question(client):
    evening = client.get("/api/evening").json()
    assert (evening["site"], evening["night"], evening["telescope"]) == (None, None, None)
    assert client.get("/api/plan/tonight").json() is None
    assert client.get("/api/powers/ladders").json() == []


def test_the_demo_evening(demo):
    evening = demo.get("/api/evening").json()
    assert evening["site"]["name"] == "Larkstone Common"
    assert (evening["now_utc"], evening["clock"]) == ("2027-02-13T16:10:00Z", "held")
    assert evening["sun"]["is_up"] is True
    ladders = demo.get("/api/powers/ladders").json()
    assert [ladder["telescope_name"] for ladder in ladders] == [
        "Heron 140",
        "Wren 85",
        "Coot 110",
        "Dipper 77",
    ]
    assert len(ladders[0]["rungs"]) == 14


def test_every_figure_of_a_rung_opens_to_its_own_value(demo):
    rung = demo.get("/api/powers/ladders?telescope_id=1").json()[0]["rungs"][3]
    shown = {
        "magnification": f"{rung['magnification']:.1f}×",
        "true_field": f"{rung['true_field_deg']:.2f}°",
        "exit_pupil": f"{rung['exit_pupil_mm']:.2f} mm",
        "focal_ratio": f"f/{rung['focal_ratio']:.1f}",
        "working_aperture": f"{rung['working_aperture_mm']:.0f} mm",
        "brightness": f"{rung['relative_brightness']:.0%}",
        "faintest": f"{rung['faintest_mag']:.1f}",
        "dawes": f"{rung['dawes_arcsec']:.2f}″",
        "rayleigh": f"{rung['rayleigh_arcsec']:.2f}″",
        "eye_relief": f"{rung['eye_relief_mm']:.0f} mm",
        "refocus": f"{-rung['refocus_mm']:.2f} mm inwards",
        "drift": " min",
        "nudge": " min",
    }
    at = {"telescope_id": 1, "rung": rung["key"]}
    for figure, result in shown.items():
        answer = demo.get(f"/api/powers/sums/{figure}", params=at)
        opened = answer.json()
        assert result in opened["result"], figure
        assert opened["source"] and opened["formula"] and opened["worked"]
    refused(demo.get("/api/powers/sums/magic?telescope_id=1&rung=e1"))
    lost = refused(demo.get("/api/powers/sums/drift?telescope_id=1&rung=e99"))
    assert lost["errors"][0]["field"] == "rung"
    refused(demo.get("/api/powers/drift?elapsed_s=-3"))


def test_first_light_leaves_amplifiers_off_until_asked(demo):
    tube = demo.get("/api/kit/telescopes").json()[0]
    demo.put("/api/kit/telescopes/1", json={**tube, "id": None, "is_new": True})
    plain = demo.get("/api/powers/ladders?telescope_id=1").json()[0]
    assert (len(plain["rungs"]), plain["amplifiers_on"]) == (5, False)
    choice = demo.get("/api/evening").json()["choice"]
    demo.patch("/api/evening", json={**choice, "amplifiers_on": True})
    assert len(demo.get("/api/powers/ladders?telescope_id=1").json()[0]["rungs"]) == 14


def test_the_table_of_rungs_as_a_file(demo):
    text = demo.get("/api/powers/ladders.csv?telescope_id=1&masked=true").text
    lines = text.splitlines()
    assert lines[0].startswith("telescope_name,label,placement,is_masked,magnification,")
    assert len(lines) == 1 + 2 * 14


@pytest.mark.parametrize(
    ("query", "sum_has", "holds"),
    [
        ("audit/eyepiece?focal_length_mm=10&printed=100", "= 76.0×", False),  # 760 ÷ 10
        ("audit/eyepiece?focal_length_mm=10&printed=150&factor=2", "= 152.0×", True),
        ("audit/largest?printed=450", "= 280×", False),  # 2 · 140
        ("audit/largest?printed=280", "= 280×", True),
        ("audit/amplifier?printed=3", "Useful with 3 of", True),  # from 8.1 mm up: 30, 18 and 13 mm
        ("audit/amplifier?printed=10", "Useful with 1 of", True),  # the 30 mm alone
    ],
)
def test_labels_are_checked_against_the_telescope(demo, query, sum_has, holds):
    found = demo.get(f"/api/powers/{query}&telescope_id=1").json()
    assert sum_has in found["exact_sum"] or found["verdict"].startswith(sum_has)
    assert found["holds"] is holds
    assert (found["would_need"] == "Nothing more.") is holds


def test_a_drift_stopped_too_soon_runs_on_and_a_forgotten_one_does_not(demo, monkeypatch):
    seconds = [0.0]
    began = datetime(2027, 2, 13, 20, tzinfo=UTC)
    monkeypatch.setattr(Clock, "real_utc", lambda _: began + timedelta(seconds=seconds[0]))
    demo.post("/api/powers/drift/start")
    seconds[0] = 0.4
    too_soon = demo.post("/api/powers/drift/stop")
    assert "It runs on" in refused(too_soon)["detail"] and "X-Changed" not in too_soon.headers
    assert demo.get("/api/evening").json()["drift_started_at_utc"].startswith("2027-02-13T20:00:00")
    seconds[0] = 62
    found = demo.post("/api/powers/drift/stop").json()
    # on the chosen target, the Moon: slower than a star, and not on the equator
    moon = demo.get("/api/powers/disc?telescope_id=1&rung=e1&target=moon").json()
    course = 14.49 * math.cos(math.radians(moon["declination_deg"]))
    assert found["true_field_deg"] == pytest.approx(62 * course / 3600, abs=1e-3)
    assert (found["on"], found["eyepiece"]["name"]) == ("Moon", "Wide 30")
    # the stop it means: 2 · 760 mm · tan(field / 2)
    stop = 2 * 760 * math.tan(math.radians(found["true_field_deg"] / 2))
    assert found["field_stop_mm"] == pytest.approx(stop, abs=0.06)
    demo.post("/api/powers/drift/start")
    seconds[0] -= 60  # the machine's clock set back: no drift that ends before it began
    assert demo.get("/api/evening").json()["drift_started_at_utc"] is None
    seconds[0] += 60 + 25 * 3600
    assert demo.get("/api/evening").json()["drift_started_at_utc"] is None
    assert refused(demo.post("/api/powers/drift/stop"))["errors"][0]["field"] == "drift"


@pytest.mark.parametrize(
    ("plural", "field"),
    [("kit/telescopes", "telescope_id"), ("evening/sites", "site_id"),
     ("evening/observers", "observer_id")],
)  # fmt: skip
def test_what_was_chosen_and_deleted_elsewhere_is_no_dead_end(demo, plural, field):
    """Another window deletes what is chosen: every switch still works, the shown one can be had."""
    chosen = demo.get("/api/evening").json()["choice"]
    demo.delete(f"/api/{plural}/{chosen[field]}")
    after = demo.get("/api/evening").json()
    assert after["choice"][field] is None
    for change in ({"steadiness": 4}, {"amplifiers_on": False}, {**chosen, "school": "steady"}):
        assert demo.patch("/api/evening", json=change).status_code == 200, change
    shown = demo.get(f"/api/{plural}").json()[0]["id"]
    healed = demo.patch("/api/evening", json={field: shown}).json()
    assert healed["choice"][field] == shown
    for path in ("setup", "plan/tonight", "powers/ladders", "setup/solar"):
        assert demo.get(f"/api/{path}").status_code == 200
    gone = refused(demo.patch("/api/evening", json={field: 99}), 404)
    assert "99" in gone["detail"]


def test_a_case_and_a_measured_field(demo):
    case = demo.get("/api/powers/case?telescope_id=1&most_eyepieces=2&picked_id=1").json()
    assert len(case["best"]["eyepiece_ids"]) == 2
    assert case["picked"]["off_percent"] >= case["best"]["off_percent"]
    field = demo.get("/api/powers/drift?elapsed_s=60").json()["true_field_deg"]
    assert field == pytest.approx(0.2507, abs=0.0001)  # 60 · 15.041″


@pytest.mark.parametrize(
    ("query", "field"),
    [
        ("audit/eyepiece?telescope_id=1&focal_length_mm=0&printed=100", "focal_length_mm"),
        ("audit/largest?telescope_id=1&printed=-4", "printed"),
        ("audit/amplifier?telescope_id=1&printed=1", "printed"),
        ("case?telescope_id=1&most_eyepieces=0", "most_eyepieces"),
        ("disc?telescope_id=1&rung=e1&target=sun", "target"),
        ("disc?telescope_id=1&rung=zzz&target=moon", "rung"),
        ("ladders?declination_deg=91", "declination_deg"),
    ],
)
def test_wrong_questions_of_powers_are_refused_by_field(demo, query, field):
    problem = refused(demo.get(f"/api/powers/{query}"))
    assert problem["errors"][0]["field"] == field


def test_what_is_due_on_the_demo_evening(demo):
    due = demo.get("/api/kit/due").json()
    assert [one["item_name"] for one in due] == ["Front foil for the Wren", "Dot on the Heron"]
    task = due[0]["upkeep"]
    demo.put(f"/api/kit/upkeeps/{task['id']}", json={**task, "id": None, "last_done": "2027-02-13"})
    assert len(demo.get("/api/kit/due").json()) == 1


def test_pages_and_only_pages_are_served(client):
    assert client.get("/..%2f..%2f..%2fpyproject.toml").text.lstrip().startswith("<!doctype html>")
    assert "default-src 'self'" in client.get("/kit").headers["content-security-policy"]
