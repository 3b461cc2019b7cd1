"""The same five verbs for every kind that is kept, and an undo that outlives the page."""

import csv
import io

import pytest

from .test_api import refused

KINDS = {
    "kit/telescopes": {
        "name": "A", "aperture_mm": 100, "focal_length_mm": 900, "design": "refractor",
    },
    "kit/eyepieces": {"name": "A", "focal_length_mm": 20, "apparent_field_deg": 60},
    "kit/amplifiers": {"name": "A", "factor": 2},
    "kit/diagonals": {"name": "A", "kind": "mirror"},
    "kit/finders": {"name": "A", "kind": "dot"},
    "kit/mounts": {"name": "A", "kind": "rocker"},
    "kit/light-filters": {"name": "A", "kind": "moon"},
    "evening/observers": {"name": "A", "age_years": 30},
    "evening/sites": {"name": "A", "latitude_deg": 0, "longitude_deg": 0, "zone": "UTC"},
    "journal/observations": {"object_name": "A", "observed_at_utc": "2027-02-13T18:00:00Z"},
}  # fmt: skip
NAMED = [path for path in KINDS if not path.startswith("journal")]


@pytest.mark.parametrize("path", KINDS)
def test_added_changed_deleted_and_brought_back(client, path):
    name = "object_name" if path.startswith("journal") else "name"
    added = client.post(f"/api/{path}", json=KINDS[path])
    assert added.status_code == 201, added.text
    stored = added.json()
    assert client.get(f"/api/{path}").json() == [stored]
    changed = client.put(f"/api/{path}/{stored['id']}", json={**stored, "id": None, name: "B"})
    assert changed.json() == {**stored, "version": 2, name: "B"}
    assert client.delete(f"/api/{path}/{stored['id']}").status_code == 204
    assert client.get(f"/api/{path}").json() == []
    refused(client.delete(f"/api/{path}/{stored['id']}"), 404)
    refused(client.put(f"/api/{path}/{stored['id']}", json=KINDS[path]), 404)
    back = client.post(f"/api/{path}/{stored['id']}/restore")
    assert back.json() == {**stored, "version": 3, name: "B"}
    refused(client.post(f"/api/{path}/{stored['id']}/restore"), 404)


@pytest.mark.parametrize("path", NAMED)
def test_a_name_stands_once_whatever_its_case(client, path):
    first = client.post(f"/api/{path}", json={**KINDS[path], "name": "Ärger"}).json()
    second = client.post(f"/api/{path}", json={**KINDS[path], "name": "Other"}).json()
    taken = refused(
        client.put(f"/api/{path}/{second['id']}", json={**second, "name": "Ärger"}), 409
    )
    assert taken["errors"][0]["field"] == "name"
    client.delete(f"/api/{path}/{first['id']}")
    again = client.post(f"/api/{path}", json={**KINDS[path], "name": "Ärger"})
    assert again.status_code == 201  # the name of a deleted one is free
    refused(client.post(f"/api/{path}/{first['id']}/restore"), 409)
    assert [one["name"] for one in client.get(f"/api/{path}").json()].count("Ärger") == 1


@pytest.mark.parametrize("path", KINDS)
def test_a_wrong_change_leaves_the_stored_one(client, path):
    stored = client.post(f"/api/{path}", json=KINDS[path]).json()
    name = "object_name" if path.startswith("journal") else "name"
    for wrong in ({name: ""}, {name: "x" * 81}, {name: None}, {"nonsense": 1}):
        problem = refused(
            client.put(f"/api/{path}/{stored['id']}", json={**stored, "id": None, **wrong})
        )
        assert problem["errors"][0]["field"] in wrong
    assert client.get(f"/api/{path}").json() == [stored]


def test_the_table_of_powers_carries_what_the_page_shows(demo):
    ladder = demo.get("/api/powers/ladders?telescope_id=1").json()[0]
    text = demo.get("/api/powers/ladders.csv?telescope_id=1").text
    rows = list(csv.DictReader(io.StringIO(text)))
    assert len(rows) == len(ladder["rungs"])
    for row, rung in zip(rows, ladder["rungs"], strict=True):
        assert row["label"] == rung["label"]
        for column in ("magnification", "true_field_deg", "exit_pupil_mm", "drift_s"):
            assert float(row[column]) == pytest.approx(rung[column], rel=1e-3), column
    assert all(name == name.lower() and " " not in name for name in rows[0])


def test_choices_of_the_evening_are_read_by_every_station(demo):
    choice = demo.get("/api/evening").json()["choice"]
    ladder = demo.get("/api/powers/ladders?telescope_id=1").json()[0]
    air = next(one for one in ladder["ceilings"] if one["name"] == "air")["magnification"]
    calm = demo.patch("/api/evening", json={**choice, "steadiness": 5}).json()
    assert calm["choice"]["steadiness"] == 5
    ladder = demo.get("/api/powers/ladders?telescope_id=1").json()[0]
    assert next(o for o in ladder["ceilings"] if o["name"] == "air")["magnification"] == 2 * air
    bay = next(s["id"] for s in demo.get("/api/evening/sites").json() if s["name"] == "Pumice Bay")
    demo.patch("/api/evening", json={**choice, "site_id": bay})
    assert (
        demo.get("/api/plan/tonight")
        .json()["tonight"]["night"]["sunset_utc"]
        .startswith("2027-02-1")
    )
    assert demo.get("/api/setup").json()["site"]["name"] == "Pumice Bay"
    refused(demo.patch("/api/evening", json={**choice, "steadiness": 6}))
    refused(demo.patch("/api/evening", json={**choice, "site_id": 99}), 404)
    assert demo.get("/api/evening").json()["choice"]["site_id"] == bay
