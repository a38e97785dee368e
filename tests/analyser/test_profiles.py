"""Profiles that the owner writes: taken beside ours, or refused with where and why."""

import json

import pytest

from yielding_coil.analyser.profiles import profiles, with_own
from yielding_coil.core.errors import UnreadableError

OWN = {
    "key": "bench-bridge",
    "name": "The bridge on the bench",
    "identify": "*IDN?",
    "prepare": [],
    "range": ["SWE {low_hz:.0f} {high_hz:.0f} {points}"],
    "start": "GO",
    "wait": "*OPC?",
    "trace": "DATA?",
    "order": "magnitude degrees",
    "error": "ERR?",
    "lowest": "LO?",
    "highest": "HI?",
    "most_points": 201,
    "baud": 57600,
}


def written(folder, *rows):
    path = folder / "profiles.json"
    path.write_text(json.dumps({"rows": rows}))
    return path


def test_own_rows_stand_beside_those_that_ship(tmp_path):
    found = with_own(written(tmp_path, OWN))

    assert set(found) == {*profiles(), "bench-bridge"}
    assert (found["bench-bridge"].baud, found["bench-bridge"].prepare) == (57600, ())
    assert with_own(tmp_path / "nothing.json") == profiles()
    assert found["plain"].baud == 115_200


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"order": "polar"}, "row 1: “order” is “polar”; it must be one of re im, magnitude degrees"),
        ({"baud": 1}, "“baud” is 1"),
        ({"most_points": True}, "“most_points” is true; a whole number is needed"),
        ({"range": "SWE"}, "a list of lines of text is needed"),
        ({"range": ["SWE {low_khz}"]}, "“range” may hold {low_hz}, {high_hz} and {points}"),
        ({"range": ["SWE {low_hz.__class__}"]}, "“range” may hold"),
        ({"key": "Bench bridge"}, "“key” takes small letters"),
        ({"colour": "red"}, "there is no column “colour”"),
        ({"start": "GO\nRST"}, "“start” is"),
    ],
)
def test_a_row_that_cannot_be_is_refused_with_its_column(tmp_path, change, said):
    with pytest.raises(UnreadableError) as refused:
        with_own(written(tmp_path, {**OWN, **change}))

    assert said in refused.value.message


def test_a_missing_column_and_a_file_that_is_no_table(tmp_path):
    short = {k: v for k, v in OWN.items() if k != "trace"}
    with pytest.raises(UnreadableError, match="the column “trace” is missing"):
        with_own(written(tmp_path, short))
    (tmp_path / "profiles.json").write_text('{"rows": [\n{"key": }]}')
    with pytest.raises(UnreadableError, match=r"line 2: profiles.json is no JSON"):
        with_own(tmp_path / "profiles.json")
    for text in ("[]", '{"rows": 3}', '{"rows": [3]}'):
        (tmp_path / "profiles.json").write_text(text)
        with pytest.raises(UnreadableError, match="a row for each kind"):
            with_own(tmp_path / "profiles.json")
