"""The drawer's table: what is written is read the same, and what is not understood names its line."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil.core.errors import UnreadableError
from yielding_coil.formats import pieces

NAME = st.text(st.characters(categories=["L", "N", "P", "S", "Zs"]), min_size=1, max_size=20).map(str.strip)
NAMES = NAME.filter(lambda t: t and not t.startswith("'"))
MM = st.floats(1e-5, 0.9)


@given(NAMES, MM, MM, MM, st.booleans(), st.one_of(st.none(), st.integers(0, 99)))
def test_a_box_comes_back(name, width, height, depth, is_round, count):
    values = {"width_m": width, "height_m": height, "depth_m": depth, "round": is_round}
    piece = {"kind": "box", "name": name, "price": "", "count": count, "values": values}

    read = pieces.read(pieces.write([piece]))

    assert len(read) == 1
    back = read[0].piece
    assert (back["kind"], back["name"], back.get("count")) == ("box", name, count)
    assert back["values"]["round"] == is_round
    for field in ("width_m", "height_m", "depth_m"):
        assert back["values"][field] == pytest.approx(values[field], rel=1e-11)


@given(st.floats(1e-13, 1e-6), st.floats(0.001, 0.5), st.floats(1, 1e4))
def test_a_capacitor_comes_back(farad, tolerance, volts):
    values = {"type": "mica", "capacitance_f": farad, "tolerance": tolerance, "voltage_v": volts, "q": 1500.0}
    back = pieces.read(pieces.write([{"kind": "capacitor", "name": "c", "values": values}]))[0].piece["values"]

    assert back == pytest.approx({k: v for k, v in values.items() if k != "type"} | {"type": "mica"})


@given(st.floats(1e-9, 1e-3), st.floats(1e-12, 1e-8), st.floats(1, 900), st.floats(1e6, 200e6))
def test_a_trap_comes_back(henry, farad, q, hertz):
    values = {
        "inductance_h": henry,
        "inductance_error": 0.01,
        "capacitance_f": farad,
        "q": q,
        "q_at_hz": hertz,
        "resonance_hz": hertz,
    }
    back = pieces.read(pieces.write([{"kind": "trap", "name": "t", "values": values}]))[0].piece["values"]

    assert back == pytest.approx(values)


POINT = st.fixed_dictionaries(
    {"frequency_hz": st.floats(1e4, 1e8), "real": st.floats(1, 1e4), "imaginary": st.floats(0, 1e4)}
)


@given(st.lists(POINT, min_size=2, max_size=9), st.floats(0.001, 0.3), st.sampled_from(["43", None]))
def test_a_material_comes_back(points, tolerance, like):
    values = {"points": points, "tolerance": tolerance, "like": like}
    back = pieces.read(pieces.write([{"kind": "material", "name": "m", "values": values}]))[0].piece["values"]

    assert back.get("like") == like
    assert back["tolerance"] == pytest.approx(tolerance)
    assert back["points"] == [pytest.approx(p) for p in points]


def test_a_core_takes_its_own_material_along():
    own = {"points": [{"frequency_hz": 1e6, "real": 640.0, "imaginary": 80.0}] * 2, "tolerance": 0.03, "like": None}
    material = {"id": "00000000-0000-4000-8000-000000000000", "revision": 4, "values": own}
    core = {"mix": "43", "size": "FT240", "stack": 2, "al_h": None, "material": material}
    back = pieces.read(pieces.write([{"kind": "core", "name": "c", "values": core}]))[0].piece["values"]

    assert (back["mix"], back["size"], back["stack"]) == ("43", "FT240", 2)
    assert back["material"]["values"] == {"points": own["points"], "tolerance": 0.03}
    assert "tolerance" not in back


@pytest.mark.parametrize("curve", ["1 640", "1 640 80 3", "a b c"])
def test_a_curve_is_of_three_numbers_a_point(curve):
    text = f"kind,name,permeability,tolerance_percent\nmaterial,mine,{curve},3\n"
    with pytest.raises(UnreadableError, match="line 2: permeability reads .*; it must be points of three numbers"):
        pieces.read(text.encode())


@pytest.mark.parametrize(
    ("kind", "needs"), [("material", "permeability"), ("coil", "inductance"), ("trap", "value")]
)
def test_a_part_needs_its_value(kind, needs):
    row = b"kind,name,inductance\n" + kind.encode() + b",mine," + (b"2.2 uH\n" if kind == "trap" else b"\n")
    with pytest.raises(UnreadableError, match=f"{needs}.* is empty or missing"):
        pieces.read(row)


@pytest.mark.parametrize("name", ["=1+1", "+cmd", "@x", "-1"])
def test_no_name_is_a_formula(name):
    piece = {"kind": "former", "name": name, "values": {"outer_m": 0.02, "length_m": 0.3}}
    written = pieces.write([piece]).decode()

    assert f"\r\nformer,'{name}" in written
    assert pieces.read(written.encode())[0].piece["name"] == name


def test_blank_rows_are_passed_over_and_lines_are_counted_as_they_stand():
    text = b"kind,name,outer_mm,length_mm\n\nformer,a,20,100\n\n\nformer,b,x,100\n"

    with pytest.raises(UnreadableError, match="line 6: outer_mm reads “x”"):
        pieces.read(text)


def test_columns_may_come_in_any_order_and_case():
    row = pieces.read("Length_mm,KIND,name,outer_mm\n300,Former,tube,25\n".encode("utf-8-sig"))[0].piece

    assert row["values"] == pytest.approx({"outer_m": 0.025, "length_m": 0.3})


def test_semicolons_and_decimal_commas_of_a_spreadsheet_are_read():
    """Found by trying it; three digits behind a comma may be thousands, and are refused."""
    read = pieces.read(b"kind;name;outer_mm;length_mm\nformer;tube;25,5;300\n")[0].piece
    assert read["values"] == pytest.approx({"outer_m": 0.0255, "length_m": 0.3})
    with pytest.raises(UnreadableError, match="length_mm reads “1,300”"):
        pieces.read(b"kind;name;outer_mm;length_mm\nformer;tube;25;1,300\n")


@pytest.mark.parametrize(
    ("text", "said"),
    [
        (b"\x89PNG\r\n", "PNG picture"),
        (b"kind,name\n", None),
        (b'kind,name\nformer,"open\n', "no table of comma-separated values"),
        (b"kind,name,outer_mm,length_mm\nformer,a,1,5,300\n", "the row has 5 cells, the heading names 4"),
        (b"kind,name,impedance_ohm\ncable,c,50\n", "a cable needs"),
    ],
)
def test_what_is_no_such_table(text, said):
    if said is None:
        assert pieces.read(text) == []
        return
    with pytest.raises(UnreadableError, match=said):
        pieces.read(text)


def test_more_rows_than_a_drawer_has_are_refused():
    rows = "".join(f"former,t{i},20,100\n" for i in range(pieces.MOST_ROWS + 1))

    with pytest.raises(UnreadableError, match=f"at most {pieces.MOST_ROWS}"):
        pieces.read(f"kind,name,outer_mm,length_mm\n{rows}".encode())
