"""A limit stands once: with another value every sentence and card says the other one."""

import subprocess
import sys

SCRIPT = """
import json, sys
from datetime import UTC, datetime
from pathlib import Path
from jade_perch.core import constants
constants.SUN_KEEP_AWAY_DEG = 37.0  # before anybody has read it
from fastapi.testclient import TestClient
from jade_perch.api.app import create_app
from jade_perch.core.evening import card, tonight
from jade_perch.demo import CLOCK
from jade_perch.demo.loader import load_demo
from jade_perch.devices.clock import parse_clock
from jade_perch.exchange import setup_card_pdf
from jade_perch.store.connection import DATABASE_NAME, connect
folder = Path(sys.argv[1])
app = create_app(folder, parse_clock(CLOCK))
db = connect(folder / DATABASE_NAME)
load_demo(db)
printed = []
real = setup_card_pdf.write_setup_card
def told(card_to_print):
    printed.append(card_to_print.model_dump_json())
    return b"%PDF-"
from jade_perch.api import setup
setup.write_setup_card = told
client = TestClient(app, base_url="http://127.0.0.1")
near = {"bearing_deg": 278, "distance_m": 800}  # 34° from the Sun at ten past five
landmark = client.post("/api/setup/landmark", json=near)
refusal = client.post("/api/setup/finder", json={
    "finder_id": 1, "landmark": near, "seen_right": 0, "seen_up": 0})
client.get("/api/setup/card.pdf")
texts = [landmark.text, refusal.text, *printed]
paths = ("/setup", "/evening", "/plan/tonight", "/setup/sun")
texts += [client.get(f"/api{path}").text for path in paths]
print(json.dumps({"refused": landmark.json()["refused"], "texts": texts}))
"""


def test_another_distance_from_the_sun_is_said_and_kept_everywhere(tmp_path):
    import json

    made = subprocess.run(
        [sys.executable, "-c", SCRIPT, str(tmp_path)], capture_output=True, text=True, check=True
    )
    told = json.loads(made.stdout.splitlines()[-1])
    assert told["refused"]  # 34° away would have been allowed
    assert len(told["texts"]) == 7
    assert [text for text in told["texts"] if "30°" in text] == []
    said = [n for n, text in enumerate(told["texts"]) if "37°" in text]
    # the check, the refusal, the card, and the caution of bench, evening, plan and ring
    assert said == [0, 1, 2, 3, 4, 5, 6]
