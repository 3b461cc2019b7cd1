"""Four windows at once over the same things: no edit is lost unseen, whoever comes first."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from random import Random

import pytest

from tests.asking import asking, demo_house

WINDOWS, PRESSES = 4, 12
FIELDS = {"load_kg": (1.0, 40.0), "lowest_mm": (300, 900), "highest_mm": (1000, 1900)}
# each window says its own of the evening, and all of them say one thing together
OWN = (
    ("steadiness", (1, 5)), ("transparency", (1, 5)), ("faintest_seen_mag", (2.0, 8.0)),
    ("school", ("detail", "steady")),
)  # fmt: skip


@dataclass
class Window:
    """One window: what it has read, and what was acknowledged to it."""

    house: object
    dice: Random
    own: tuple
    edits: list = field(default_factory=list)  # version before, version after
    gone: list = field(default_factory=list)  # version that was taken out
    last: object = None

    def press(self, path):
        act = self.dice.random()
        if act < 0.3:
            name, (low, high) = self.own
            given = self.dice.choice((low, high))
            said = {name: given, "length_unit": self.dice.choice(("metric", "inch"))}
            assert self.house.patch("/api/evening", json=said).status_code == 200
            self.last = given
        elif act < 0.85:
            self.edit(path)
        else:
            self.take_out(path)

    def edit(self, path):
        item = self.read(path)
        if item is None:
            return
        name = self.dice.choice(list(FIELDS))
        changed = {**item, name: round(self.dice.uniform(*FIELDS[name])), "id": None}
        answer = self.house.put(path, json=changed)
        assert answer.status_code in (200, 404, 409, 422), answer.text
        if answer.status_code == 200 and answer.json()["version"] != item["version"]:
            self.edits.append((item["version"], answer.json()["version"]))

    def take_out(self, path):
        item = self.read(path)
        if item is None:
            self.house.post(f"{path}/restore")
            return
        answer = self.house.delete(path, params={"version": item["version"]})
        assert answer.status_code in (204, 404, 409), answer.text
        if answer.status_code == 204:
            self.gone.append(item["version"])

    def read(self, path):
        found = self.house.get(path.rsplit("/", 1)[0]).json()
        return next((one for one in found if f"{one['id']}" == path.rsplit("/", 1)[1]), None)


@pytest.mark.parametrize("seed", range(3))
def test_no_edit_is_lost_unseen(tmp_path, seed):
    app = demo_house(tmp_path).app
    windows = [Window(asking(app), Random(seed + n), own) for n, own in enumerate(OWN)]
    path = "/api/kit/mounts/1"

    def work(window):
        for _ in range(PRESSES):
            window.press(path)

    with ThreadPoolExecutor(WINDOWS) as pool:
        list(pool.map(work, windows))
    edits = sorted(edit for window in windows for edit in window.edits)
    # every edit was made by somebody who had read the one before it
    assert all(after == before + 1 for before, after in edits)
    assert len({before for before, _ in edits}) == len(edits)
    # and whatever was taken out was what its window had read: no edit of that version came after
    for version in (one for window in windows for one in window.gone):
        assert version not in {before for before, _ in edits}
    choice = asking(app).get("/api/evening").json()["choice"]
    for window in windows:
        if window.last is not None:
            assert choice[window.own[0]] == window.last
