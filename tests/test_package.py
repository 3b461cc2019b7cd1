"""What is packed and pinned: whole, with its licences, and running from any folder."""

import re
import shutil
import subprocess
import sys
import urllib.request
import zipfile
from pathlib import Path

import pytest
from tools.build_notices import TARGET, bundled, notices

from jade_perch.api.pages import WEB

ROOT = Path(__file__).parents[1]
INSIDE = ("index.html", "demo/scenario.json", "objects.csv", "stars.npz", "moon_features.csv")
LICENCES = ("LICENSE", "NOTICE", "THIRD-PARTY-NOTICES.txt")


def packed(folder, *, with_pages):
    """A wheel of what is kept in the repository, built in a folder of its own."""
    listed = subprocess.run(["git", "ls-files", "src", "*.*", *LICENCES], cwd=ROOT, text=True,
                            capture_output=True, check=True).stdout.split("\n")  # fmt: skip
    for name in filter(None, listed):
        if "/" not in name or name.startswith("src/"):
            (folder / name).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy(ROOT / name, folder / name)
    if with_pages:
        shutil.copytree(WEB, folder / "src/jade_perch/web")
    command = "-m pip wheel -q --no-deps --no-build-isolation --no-index -w dist ."
    return subprocess.run(
        [sys.executable, *command.split()], cwd=folder, text=True, capture_output=True
    )


def test_a_wheel_without_pages_is_refused_with_one_line(tmp_path):
    made = packed(tmp_path, with_pages=False)
    assert made.returncode != 0 and "The pages are not built: run make build" in made.stderr
    assert not list((tmp_path / "dist").glob("*.whl"))


def test_a_wheel_is_whole_and_runs_from_any_folder(tmp_path):
    made = packed(tmp_path, with_pages=True)
    assert made.returncode == 0, made.stderr
    (wheel,) = (tmp_path / "dist").glob("*.whl")
    elsewhere = tmp_path / "elsewhere"
    with zipfile.ZipFile(wheel) as archive:
        names = archive.namelist()
        archive.extractall(elsewhere)
    for ending in (*INSIDE, *LICENCES):
        assert any(name.endswith(ending) for name in names), ending
    assert sum(name.endswith(".woff2") for name in names) >= 2
    assert sum(name.endswith(".ttf") for name in names) >= 2
    command = [sys.executable, "-m", "jade_perch.cli", "demo", "--port", "0"]
    with subprocess.Popen(
        [*command, "--data-dir", str(tmp_path / "data")], cwd="/", stdout=subprocess.PIPE,
        env={"PYTHONPATH": str(elsewhere), "PATH": "/usr/bin:/bin"}, text=True,
    ) as process:  # fmt: skip
        (url,) = re.findall(r"http://\S+", process.stdout.readline())
        page = urllib.request.urlopen(url).read().decode()
        script = re.search(r'src="/(assets/[^"]+\.js)"', page)[1]
        assert urllib.request.urlopen(url + script).read() == (WEB / script).read_bytes()
        assert b"Heron 140" in urllib.request.urlopen(f"{url}api/kit/telescopes").read()
        process.terminate()


def test_notices_name_everything_that_ships_with_its_licence():
    told = TARGET.read_text("utf-8")
    for name, version in bundled().items():
        assert f"\n{name} {version}\n" in told, name
    assert len(bundled()) > 12 and told.count("SIL OPEN FONT LICENSE Version 1.1") >= 1
    data = (ROOT / "src/jade_perch").glob("*/**/data/*")
    for path in data:
        assert path.name in told or (path.name.startswith("card-") and "card-*.ttf" in told), path
    assert {"vue", "vuetify", "pinia", "d3-scale"} <= bundled().keys()


@pytest.mark.skipif(not (ROOT / "frontend/node_modules").is_dir(), reason="needs the packages")
def test_notices_are_fresh():
    assert notices() == TARGET.read_text("utf-8"), "run: make notices"


def test_everything_installed_is_pinned_by_hash_and_names_no_host():
    for name in ("requirements.txt", "requirements-dev.txt"):
        text = (ROOT / name).read_text("utf-8")
        pins = re.findall(r"^[\w.-]+==[^ \n]+( \\\n    --hash=sha256:[0-9a-f]{64})+", text, re.M)
        assert len(pins) == len(re.findall(r"^\w", text, re.M)) > 20
        assert "://" not in text and "--index" not in text and "--find" not in text
    lock = (ROOT / "frontend/package-lock.json").read_text("utf-8")
    assert '"resolved"' not in lock and '"integrity"' in lock
