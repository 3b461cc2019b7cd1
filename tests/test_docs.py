"""The documents and the house say the same."""

import ast
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
RULES = (ROOT / "docs/rules.md").read_text("utf-8")
CORE = sorted((ROOT / "src/jade_perch/core").rglob("[a-z]*.py"))
LITERATURE = (
    "Sidgwick", "Meeus", "Crumey", "Bennett", "WMO", "World Magnetic Model", "JPL DE421",
    "Hipparcos", "OpenNGC", "IAU", "Newton", "Rayleigh", "Rodrigues", "Law of reflection",
    "law of reflection", "definition", "Definition", "geometry", "formula", "Earth's rotation",
    "exact rotations", "our own", "the choices", "the kit", "the entries", "the columns",
    "the table", "the names", "the rows", "as ``find``", "see ``", "the shipped catalogue",
    "the figures each", "the steps of", "the catalogue", "the azimuth rate", "true = compass",
    "horizons", "Kasten", "Krisciunas", "Patat", "spherical law of cosines", "9 °F", "Seen",
    "sidereal", "M = A",
)  # fmt: skip
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
        assert _parser([command]).parse_args([command]).command == command
    level = ["instrument", "level"]
    assert _parser(level).parse_args(level).kind == "level"


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


def public_functions():
    def inside(node, prefix=""):
        for one in node.body:
            if isinstance(one, ast.ClassDef) and not one.name.startswith("_"):
                yield from inside(one, f"{one.name}.")
            elif isinstance(one, ast.FunctionDef) and not one.name.startswith("_"):
                yield f"{prefix}{one.name}", ast.get_docstring(one) or ""

    for path in CORE:
        for name, words in inside(ast.parse(path.read_text("utf-8"))):
            yield f"{path.name}:{name}", words


def test_every_public_function_names_a_source_that_a_reader_can_open():
    anchors = set(re.findall(r"^### ([\w-]+)$", RULES, re.MULTILINE))
    found = dict(public_functions())
    bare = {name for name, words in found.items() if "Source:" not in words}
    assert {name for name in bare if not name.endswith((".allowed", ":check"))} == set()
    lost = {}
    for name, words in found.items():
        source = words.split("Source:")[-1]
        named = set(re.findall(r"rules\.md#([\w-]+)", source))
        if source.strip() and (
            not named <= anchors or not (named or any(one in source for one in LITERATURE))
        ):
            lost[name] = source.strip()
    assert lost == {}
    text = "".join(path.read_text("utf-8") for path in CORE)
    assert set(re.findall(r"rules\.md#([\w-]+)", text)) <= anchors
    assert set(re.findall(r'rule="([\w-]+)"', text)) <= anchors
    assert not re.search(r"[Hh]andbook(?!\s*[,:*])", text.replace("Astronomer's Handbook", ""))


def constants():
    """Every number with a name in the core, by name; some names stand in two modules."""
    found = {}
    for path in CORE:
        for node in ast.parse(path.read_text("utf-8")).body:
            if not isinstance(node, ast.Assign | ast.AnnAssign) or node.value is None:
                continue
            target = node.targets[0] if isinstance(node, ast.Assign) else node.target
            try:
                value = ast.literal_eval(node.value)
            except ValueError:
                continue
            names = [one.id for one in getattr(target, "elts", [target]) if hasattr(one, "id")]
            values = value if isinstance(value, tuple) and len(names) > 1 else [value]
            for name, one in zip(names, values, strict=False):
                if name.isupper():
                    found.setdefault(name, []).append(one)
    return found


def numbers_of(value):
    parts = value.values() if isinstance(value, dict) else value
    return [float(one) for one in parts] if hasattr(parts, "__iter__") else [float(value)]


def test_the_rules_and_the_code_have_the_same_figures():
    """A constant changed in one of the two is changed in both, or this fails."""
    known = constants()
    told = re.findall(r"`([A-Z][A-Z0-9_]+)`((?:,?\s(?:and )?-?[\d.]+)+)", RULES)
    told = [(name, [float(n.strip(".")) for n in re.findall(r"-?[\d.]+", t)]) for name, t in told]
    wrong = [
        (name, figures, known.get(name))
        for name, figures in told
        if not any(numbers_of(value) == figures[: len(numbers_of(value))] for value in known[name])
    ]
    assert wrong == [] and len(told) > 90
