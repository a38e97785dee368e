import numpy as np
import pytest
import skrf
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil.core.errors import UnreadableError
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import Sweep
from yielding_coil.formats import touchstone

F = np.array([14.0e6, 14.1e6, 14.2e6])
Z = np.array([35 - 20j, 40 + 1j, 47 + 25j])
UNITS = {"Hz": 1.0, "kHz": 1e3, "MHz": 1e6, "GHz": 1e9}


def as_text(unit="Hz", parameter="S", form="RI", reference=50.0, version=1, end="\n"):
    """A file made by the words of the specification, not by our writer."""
    scale = reference if version == 1 else 1.0
    value = {"S": (Z - reference) / (Z + reference), "Z": Z / scale, "Y": scale / Z}[parameter]
    pairs = {
        "RI": lambda v: (v.real, v.imag),
        "MA": lambda v: (abs(v), np.angle(v, deg=True)),
        "DB": lambda v: (20 * np.log10(abs(v)), np.angle(v, deg=True)),
    }[form]
    head = ["! made up", f"# {unit} {parameter} {form} R {reference}"]
    if version == 2:
        head = [
            "[Version] 2.0",
            f"# {unit} {parameter} {form} R {reference}",
            "[Number of Ports] 1",
            f"[Number of Frequencies] {len(F)}",
            "[Reference]",
            f"{reference}",
            "[Network Data]",
        ]
    rows = ["{:.12g} {:.14g} {:.14g}".format(f / UNITS[unit], *pairs(v)) for f, v in zip(F, value, strict=True)]
    return end.join([*head, *rows, *(["[End]"] if version == 2 else [])]) + end


@pytest.mark.parametrize("version", [1, 2])
@pytest.mark.parametrize("form", ["RI", "MA", "DB"])
@pytest.mark.parametrize("parameter", ["S", "Z", "Y"])
@pytest.mark.parametrize(("unit", "reference"), [("Hz", 50), ("kHz", 75), ("MHz", 1), ("GHz", 300)])
def test_every_kind_of_file(unit, reference, parameter, form, version):
    """Touchstone File Format Specification 2.0: version 1 divides Z and Y by the reference, version 2 does not."""
    found = touchstone.read_file(as_text(unit, parameter, form, reference, version).encode())

    assert found.sweep.frequency_hz == pytest.approx(F)
    assert found.sweep.impedance_ohm == pytest.approx(Z, rel=1e-9)
    assert found.reference_ohm == reference


@pytest.mark.parametrize("form", ["RI", "MA", "DB"])
@pytest.mark.parametrize("parameter", ["S", "Z"])
@pytest.mark.parametrize(("unit", "reference"), [("GHz", 75), ("MHz", 50)])
def test_scikit_rf_reads_the_same(tmp_path, unit, reference, parameter, form):
    """scikit-rf 2.2.0 (its version 1 Y is off by R², so Y is left to the specification above)."""
    path = tmp_path / "wire.s1p"
    path.write_text(as_text(unit, parameter, form, reference))

    ours = touchstone.read(path.read_bytes())
    theirs = skrf.Network(path)

    assert ours.frequency_hz == pytest.approx(theirs.f)
    assert ours.reflection(reference) == pytest.approx(theirs.s[:, 0, 0], abs=1e-9)


@pytest.mark.parametrize(
    "text",
    [
        "# R 50 RI S hz\n1e6 .1 .2\n2e6 .1 .3\n",
        "#hz s ri r 50\r\n1e6 .1 .2\r\n2e6 .1 .3\r\n",
        "#HZ S RI R50\r1e6\t.1   .2\r2e6 .1 .3",
        "\n\n! a\n  # Hz S RI R 50 ! b\n! c\n 1E6 +.1 0.2! d\n!\n2e+06 .1 3E-1  \n\n",
        "\ufeff# Hz S RI\n1000000 0.1 0.2\n2000000 0.1 0.3\n",
        "# kHz S RI R 50\n# GHz S MA R 1\n1e3 .1 .2\n2e3 .1 .3\n",
    ],
)
def test_odd_but_right(text):
    sweep = touchstone.read(text.encode())

    assert sweep.frequency_hz.tolist() == [1e6, 2e6]
    assert sweep.reflection() == pytest.approx(np.array([0.1 + 0.2j, 0.1 + 0.3j]))


def test_the_defaults_of_an_empty_option_line():
    """Specification 2.0: GHz, S, MA, R 50."""
    sweep = touchstone.read(b"#\n0.1 0.5 90\n")

    assert sweep.frequency_hz.tolist() == [1e8]
    assert sweep.reflection()[0] == pytest.approx(0.5j)


def test_comments_are_kept_and_other_encodings_read():
    found = touchstone.read_file("! Käse\n# Hz S RI R 50\n1e6 0 0\n".encode("latin-1"))

    assert len(found.comments) == 1
    assert touchstone.read(as_text().encode("utf-16")).impedance_ohm == pytest.approx(Z)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "the file is empty; choose a Touchstone one-port file"),
        (b" \n\n", "the file is empty"),
        (b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR", "this is a PNG picture; choose"),
        (b"PK\x03\x04rest", "this is a ZIP archive"),
        (b"# Hz S RI R 50\n\0\0\0", "this is no text file"),
        (b"hello\n", "line 1: “hello” comes before the option line"),
        (b"! only words\n", "no option line"),
        (b"# Hz S RI R 50\n", "the file holds no data"),
        (b"# Hz S RI R 50\n2e6 0 0\n1e6 0 0\n", "line 3: 1 MHz lies below the frequency before it"),
        (b"# Hz S RI R 50\n1e6 0 0\n\n1e6 0 0\n", "line 4: 1 MHz repeats the frequency before it"),
        (b"# Hz S RI R 50\n-1e6 0 0\n", "line 2: the frequency is -1e"),
        (b"# Hz S RI R 50\n0 0 0\n", "line 2: the frequency is 0 Hz; it must be above zero"),
        (b"# Hz S RI R 50\n1e6 0 0\n0.1 0.2\n", "line 3: 2 numbers where a point has three"),
        (b"# Hz S RI R 50\n1e6 nan 0\n", "line 2: “nan” is not a finite number"),
        (b"# Hz S RI R 50\n1e6 0 -inf\n", "line 2: “-inf” is not a finite number"),
        (b"# Hz S RI R 50\n1e6 0 1e999\n", "line 2: “1e999” is not a finite number"),
        (b"# Hz S RI R 50\n1e6 0 zero\n", "line 2: “zero” is not a number"),
        (b"# Hz S RI R 50\n1_0e6 0 0\n", "line 2: “1_0e6” is not a finite number"),
        (b"# Hz S RI R 0\n1e6 0 0\n", "line 1: the reference is 0"),
        (b"# Hz S RI R -50\n1e6 0 0\n", "line 1: the reference is -50"),
        (b"# Hz S RI R\n1e6 0 0\n", "line 1: R without a value"),
        (b"# Hz S RI Q 50\n1e6 0 0\n", "line 1: “Q” is no option; known are Hz"),
        (b"# Hz H RI R 50\n1e6 0 0\n", "line 1: H parameters describe two ports"),
        (b"# Hz S RI R 50\n1e6 1.06 0\n", r"line 2: \|Γ\| is 1.060: more comes back"),
        (b"# Hz S RI R 50\n1e6 1 0\n", "line 2: the point at 1e\\+06 is an exact open"),
        (b"[Version] 3.0\n", "line 1: version “3.0” is not read"),
        (b"[Version 2.0\n", "line 1: .* lacks its closing bracket"),
        (b"[Vision] 2.0\n", "line 1: “\\[Vision\\]” is no keyword"),
        (b"[Version] 2.0\n# Hz\n[Number of Frequencies] 2\n[Network Data]\n1e6 0 0\n[End]\n", "cut short"),
    ],
)
def test_what_cannot_be_read_is_refused_with_its_line(data, words):
    with pytest.raises(UnreadableError, match=words):
        touchstone.read(data)


def test_more_than_32_mib_is_refused():
    with pytest.raises(UnreadableError, match=r"the file is 33.0 MiB; at most 32 MiB"):
        touchstone.read(b" " * (33 * 2**20))


@pytest.mark.parametrize(
    "data",
    [b"# Hz S RI R 50\n1e6 0 0 1 0 1 0 0 0\n", b"[Version] 2.0\n# Hz S RI R 50\n[Number of Ports] 2\n"],
)
def test_two_port_data_offer_s11(data):
    with pytest.raises(touchstone.ManyPortsError, match="take S11 from it") as refused:
        touchstone.read(data)

    assert refused.value.more["offers"] == ["S11"]


@given(
    st.lists(
        st.tuples(st.floats(1e3, 1e9), st.floats(0, 0.999), st.floats(-3.14, 3.14)),
        min_size=1,
        max_size=20,
        unique_by=lambda row: float(f"{row[0]:.12g}"),
    )
)
def test_what_is_written_is_read_again(rows):
    rows.sort()
    gamma = np.array([m * np.exp(1j * a) for _, m, a in rows])
    sweep = Sweep(np.array([f for f, _, _ in rows]), 50 * (1 + gamma) / (1 - gamma))

    again = touchstone.read(touchstone.write(sweep, "two\nlines"))

    assert again.frequency_hz == pytest.approx(sweep.frequency_hz, rel=1e-11)
    assert reflection_of(again.impedance_ohm) == pytest.approx(gamma, abs=1e-10)
