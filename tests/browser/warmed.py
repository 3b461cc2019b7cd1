"""What every forked server finds already done: modules, the sky's tables, one night."""

import tempfile
from pathlib import Path

from tests.asking import demo_house

with tempfile.TemporaryDirectory() as folder:
    house = demo_house(Path(folder))
    for path in (
        "evening",
        "plan/tonight",
        "powers/ladders",
        "setup",
        "eyepiece",
        "targets?text=m4",
    ):
        house.get(f"/api/{path}").raise_for_status()
del house
