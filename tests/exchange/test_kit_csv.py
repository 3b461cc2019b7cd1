"""The kit as CSV: out and in again, and every way a file can be wrong."""

import json
from datetime import UTC, datetime

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import folded
from jade_perch.core.kit import Amplifier, Eyepiece, Finder, Mount, Telescope, Upkeep
from jade_perch.core.records import check_together, compare
from jade_perch.exchange.kit_csv import COLUMNS, read_kit, write_kit
from jade_perch.exchange.kit_json import kit_schema, read_kit_json, write_kit_json
from jade_perch.exchange.tables import MOST_BYTES, meant, safe_cells

NOW = datetime(2050, 1, 1, tzinfo=UTC)
SCHEMA = jsonschema.validators.validator_for(kit_schema())(kit_schema())

printable = st.characters(exclude_categories=["C", "Z"], include_characters=" ")
names = st.text(printable, min_size=1, max_size=40).map(str.strip).filter(bool)
# what a spreadsheet would run, defused or not, and what only looks defused
DANGEROUS = ("=", "+", "-", "@", "'=", "''+", "＝", "'")
names |= st.tuples(st.sampled_from(DANGEROUS), names).map("".join).map(str.strip)
eyepieces = st.builds(
    Eyepiece,
    id=st.none(),
    name=names,
    focal_length_mm=st.floats(min_value=1.5, max_value=100),
    apparent_field_deg=st.floats(min_value=15, max_value=130),
    field_stop_mm=st.none() | st.floats(min_value=0.5, max_value=23),
    barrel_in=st.sampled_from(["0.965", "1.25", "2"]),
    eye_relief_mm=st.none() | st.floats(min_value=0, max_value=60),
)
telescopes = st.builds(
    Telescope,
    id=st.none(),
    name=names,
    aperture_mm=st.just(100.0),
    focal_length_mm=st.floats(min_value=200, max_value=4000),
    design=st.sampled_from(["newtonian", "catadioptric"]),
    obstruction_percent=st.floats(min_value=0, max_value=60),
    focuser_barrel_in=st.sampled_from(["1.25", "2"]),
)
amplifiers = st.builds(
    Amplifier,
    id=st.none(),
    name=names,
    factor=st.floats(min_value=1.1, max_value=6),
    kind=st.sampled_from(["barlow", "telecentric"]),
    focal_length_mm=st.none() | st.floats(min_value=10, max_value=500),
)


@given(
    st.lists(
        telescopes | eyepieces | amplifiers,
        max_size=8,
        unique_by=lambda item: (type(item), folded(item.name)),
    )
)
def test_out_and_in_again_is_the_same(items):
    text, document = write_kit(items), write_kit_json(items)
    assert [one.model for one in read_kit(text.encode())] == items
    assert [one.model for one in read_kit_json(document.encode())] == items
    SCHEMA.validate(json.loads(document))


@given(st.lists(st.text(max_size=12), min_size=1), st.floats(allow_nan=False))
def test_no_cell_is_run_and_every_text_comes_back(texts, number):
    row = {str(place): text for place, text in enumerate(texts)} | {"number": number}
    safe = safe_cells(row)
    assert safe["number"] == number
    for place, text in enumerate(texts):
        cell = safe[str(place)]
        assert not cell.startswith(("=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠"))
        assert meant(cell) == text


def test_numbers_stay_numbers_and_names_are_defused():
    glass = Eyepiece(name="-15 mm", focal_length_mm=15, apparent_field_deg=60)
    dot = Finder(name='=HYPERLINK("x")', kind="dot", offset_mm=30.5)
    text = write_kit([glass, dot])
    assert "'-15 mm" in text and "'=HYPERLINK" in text and ",30.5," in text


def test_references_go_out_and_in_by_name():
    mount = Mount(id=7, name="Stand")
    tube = Telescope(
        id=3, name="T", aperture_mm=100, focal_length_mm=900, design="refractor", mount_id=7
    )
    dot = Finder(id=4, name="Dot", kind="dot", telescope_id=3)
    battery = Upkeep(id=5, item_kind="finder", item_id=4, task="battery")
    kit = [mount, tube, dot, battery]
    for records in (read_kit(write_kit(kit).encode()), read_kit_json(write_kit_json(kit).encode())):
        checked = check_together(records, [], NOW)
        assert [one.problems for one in checked] == [[]] * 4
        assert checked[1].references == {"mount_id": ("mount", "Stand")}
        assert checked[3].name == "battery of finder Dot"
        assert {row.outcome for row in compare(checked, kit).rows} == {"same"}
    lost = check_together(read_kit(write_kit([mount, tube, dot]).encode())[2:], [], NOW)
    assert lost[0].problems[0].field == "telescope_name"


@pytest.mark.parametrize(
    ("text", "field"),
    [
        ("{", "file"),
        ("[" * 100_000, "file"),
        ("[]", "format"),
        ('{"format": "other", "version": 1}', "format"),
        ('{"format": "jade-perch-kit", "version": 2, "items": []}', "format"),
        ('{"format": "jade-perch-kit", "version": 1, "items": 3}', "items"),
        ('{"format": "jade-perch-kit", "version": 1, "items": [3]}', "items"),
    ],
)
def test_a_document_that_cannot_be_read_says_why(text, field):
    with pytest.raises(OutOfRange) as caught:
        read_kit_json(text.encode())
    assert caught.value.field == field


def test_nan_in_a_document_is_refused_by_its_field():
    item = '{"item": "amplifier", "name": "A", "factor": NaN}'
    document = f'{{"format": "jade-perch-kit", "version": 1, "items": [{item}]}}'
    (row,) = compare(read_kit_json(document.encode()), []).rows
    assert (row.outcome, row.problems[0].field) == ("refused", "factor")


def test_the_report_names_line_field_value_range_and_cure():
    text = (
        "item,name,focal_length_mm,apparent_field_deg,field_stop_mm\r\n"
        "eyepiece,Good,25,50,\r\n"
        "\r\n"
        "eyepiece,Bad,0,50,33\r\n"
        "teapot,Odd,,,\r\n"
        "eyepiece,Comma,12,5,50,\r\n"
        "eyepiece,good,20,50,\r\n"
    )
    kept = [Eyepiece(id=4, name="GOOD", focal_length_mm=25, apparent_field_deg=50)]
    report = compare(check_together(read_kit(text.encode()), kept, NOW), kept)
    assert [(r.line, r.outcome) for r in report.rows] == [
        (2, "changed"),
        (4, "refused"),
        (5, "refused"),
        (6, "refused"),
        (7, "refused"),
    ]
    bad = report.rows[1].problems[0]
    assert (bad.field, bad.value, bad.allowed) == ("focal_length_mm", "0", "1.5 to 100 mm")
    assert "barrel" in bad.cure
    assert "telescope" in report.rows[2].problems[0].allowed
    assert "Quote" in report.rows[3].problems[0].cure
    assert "Line 2" in report.rows[4].problems[0].cure
    assert (report.changed, report.refused, report.applied) == (1, 4, False)


@pytest.mark.parametrize("value", ["nan", "inf", "-5", "1e9", "12,5", "twelve", "0"])
def test_numbers_that_are_none(value):
    text = f'item,name,focal_length_mm,apparent_field_deg\neyepiece,E,"{value}",50\n'
    (row,) = compare(read_kit(text.encode()), []).rows
    assert row.problems[0].field == "focal_length_mm"
    assert row.problems[0].value == value


@pytest.mark.parametrize(
    ("data", "field", "part"),
    [
        (b"", "file", "empty"),
        (b"item,name\neyepiece,\xff\n", "file", "0xff in line 2"),
        (b"item,name,weight\n", "header", "weight"),
        (b"item,name,name\n", "header", "once"),
        (b"name\n", "header", "item"),
        (b'item,name\neyepiece,"open\n', "file", "CSV"),
        (b"x" * (MOST_BYTES + 1), "file", "up to"),
        (b"item,name\n" + b"eyepiece,E\n" * 2001, "file", "2000 rows"),
    ],
)
def test_a_file_that_cannot_be_read_says_why(data, field, part):
    with pytest.raises(OutOfRange) as caught:
        read_kit(data)
    assert caught.value.field == field
    assert part in str(caught.value)


def test_a_byte_order_mark_and_unix_lines_are_fine():
    text = "\ufeffitem,name,factor\namplifier,Doubler,2\n"
    (row,) = read_kit(text.encode())
    assert isinstance(row.model, Amplifier)
    assert COLUMNS[:2] == ("item", "name")
