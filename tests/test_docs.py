"""The documents and the house say the same."""

import re
from pathlib import Path

import pytest

from jade_perch.cli import _parser
from jade_perch.core.bench.instrument import CompassLine, LevelLine, read_line
from jade_perch.core.records import MODELS, record_fields
from jade_perch.store.migrations import MIGRATIONS

ROOT = Path(__file__).parents[1]
README = (ROOT / "README.md").read_text("utf-8")
FORMATS = (ROOT / "docs/formats.md").read_text("utf-8")
ARCHITECTURE = (ROOT / "docs/architecture.md").read_text("utf-8")
DOCUMENTS = [*ROOT.glob("*.md"), *(ROOT / "docs").rglob("*.md")]
MOST_PICTURES = 19


@pytest.mark.parametrize("document", DOCUMENTS, ids=lambda path: path.name)
def test_every_link_leads_somewhere(document):
    for target in re.findall(r"\]\(([^)#]+)\)", document.read_text("utf-8")):
        assert (document.parent / target).exists(), target


def test_every_picture_is_shown_and_they_stay_few():
    pictures = {path.name for path in (ROOT / "docs/screenshots").glob("*.png")}
    shown = set(re.findall(r"docs/screenshots/([\w-]+\.png)", README))
    assert pictures == shown and len(pictures) <= MOST_PICTURES


@pytest.mark.parametrize("kind", MODELS)
def test_every_column_of_the_kit_is_documented(kind):
    row = next(line for line in FORMATS.splitlines() if line.startswith(f"| `{kind}` |"))
    documented = set(re.findall(r"`([\w.]+)`", row))
    missing = set(record_fields(kind)) - {"name"} - documented
    # the two ends of a zoom stand behind the table's semicolon, the rest by name
    assert missing == set()


def test_the_documented_lines_are_readings():
    lines = re.findall(r'^\{"instrument".*\}$', FORMATS, re.MULTILINE)
    assert [type(read_line(line)) for line in lines] == [LevelLine, CompassLine]


def test_the_commands_of_the_readme_exist():
    makefile = (ROOT / "Makefile").read_text("utf-8")
    for target in set(re.findall(r"`?make ([a-z-]+)", README)):
        assert re.search(rf"^{target}:", makefile, re.MULTILINE), target
    for command in set(re.findall(r"jade-perch (\w+)", README)) - {"instrument"}:
        assert _parser().parse_args([command]).command == command
    assert _parser().parse_args(["instrument", "level"]).kind == "level"


def test_every_room_of_the_house_is_on_the_plan():
    for package in (ROOT / "src/jade_perch").iterdir():
        if package.is_dir() and package.name not in ("web", "__pycache__", "data"):
            assert f"{package.name}" in ARCHITECTURE, package.name
    for module in (ROOT / "src/jade_perch/core/bench").glob("[a-z]*.py"):
        assert f"`{module.stem}`" in ARCHITECTURE, module.stem


def test_decisions_are_numbered_without_gaps():
    numbers = sorted(int(path.name[:3]) for path in (ROOT / "docs/decisions").glob("*.md"))
    assert numbers == list(range(1, len(numbers) + 1))
    for path in (ROOT / "docs/decisions").glob("*.md"):
        assert path.read_text("utf-8").startswith(f"# {int(path.name[:3])}. ")


def test_migrations_are_numbered_in_order():
    assert [int(step.name[:3]) for step in MIGRATIONS] == list(range(1, len(MIGRATIONS) + 1))


def test_lock_files_name_no_host():
    for name in ("requirements.txt", "requirements-dev.txt", "frontend/package-lock.json"):
        text = (ROOT / name).read_text("utf-8")
        sources = re.findall(r'"resolved"|--index|--find-links|"tarball"', text)
        assert sources == [], name
