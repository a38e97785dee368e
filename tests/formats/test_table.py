import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil.core.errors import UnreadableError
from yielding_coil.core.sweep import Sweep, SwrSweep
from yielding_coil.formats import files, table

F = np.array([7.0e6, 7.1e6, 7.2e6])
Z = np.array([40 - 30j, 50 + 1j, 75 + 20j])
G = (Z - 50) / (Z + 50)


def rows(heading, *columns, separator=","):
    lines = [separator.join(f"{v:.10g}" for v in row) for row in zip(*columns, strict=True)]
    return "\n".join([heading, *lines]).encode()


@pytest.mark.parametrize(
    "data",
    [
        rows("MHz,R,X", F / 1e6, Z.real, Z.imag),
        rows("Frequency (kHz);Resistance (ohm);Reactance [Ω]", F / 1e3, Z.real, Z.imag, separator=";"),
        rows("freq_hz\trs\txs", F, Z.real, Z.imag, separator="\t"),
        rows("f [MHz],|Z|,angle (deg)", F / 1e6, np.abs(Z), np.degrees(np.angle(Z))),
        rows("MHz,|Z| (ohm),phase (rad)", F / 1e6, np.abs(Z), np.angle(Z)),
        rows("GHz,Re Γ,Im Γ", F / 1e9, G.real, G.imag),
        rows("Hz,Re(S11),Im(S11)", F, G.real, G.imag),
        rows("MHz,|S11|,angle S11", F / 1e6, np.abs(G), np.degrees(np.angle(G))),
        rows("MHz,|Γ|,angle", F / 1e6, np.abs(G), np.degrees(np.angle(G))),
        rows("MHz,S11 (dB),phase S11 (deg)", F / 1e6, 20 * np.log10(np.abs(G)), np.degrees(np.angle(G))),
        rows("X,R,MHz", Z.imag, Z.real, F / 1e6),
        rows("MHz,R,X,note,SWR", F / 1e6, Z.real, Z.imag, F * 0, (1 + abs(G)) / (1 - abs(G))),
        b"\xef\xbb\xbf# made up\r\n\r\n" + rows("MHz,R,X", F / 1e6, Z.real, Z.imag).replace(b"\n", b"\r\n"),
        rows("MHz;R;X", F / 1e6, Z.real, Z.imag, separator=";").replace(b".", b","),
        b'"MHz","R","X"\n"7.0","40","-30"\n"7.1","50","1"\n7.2,75,20\n',
    ],
)
def test_an_impedance_in_any_of_its_spellings(data):
    found = table.read(data).found

    assert isinstance(found, Sweep)
    assert found.frequency_hz == pytest.approx(F)
    assert found.impedance_ohm == pytest.approx(Z, rel=1e-6)


@pytest.mark.parametrize(
    "data",
    [
        b"MHz,SWR\n7.0,2\n7.1,1.5\n",
        b"MHz,Return loss (dB)\n7.0,9.5424\n7.1,13.9794\n",
        b"MHz,S11 (dB)\n7.0,-9.5424\n7.1,-13.9794\n",
        b"MHz;VSWR\n7,0;2,0\n7,1;1,5\n",
    ],
)
def test_swr_alone_is_kept_as_readings(data):
    """SWR 2 is 9.54 dB of return loss, 1.5 is 13.98: handbook tables."""
    found = table.read(data).found

    assert isinstance(found, SwrSweep)
    assert found.swr == pytest.approx([2.0, 1.5], rel=1e-4)


def test_what_is_not_understood_is_left_aside_and_said():
    read = table.read(rows("MHz,R,X,weather", F / 1e6, Z.real, Z.imag, F * 0))

    assert read.remarks == ("the column “weather” was not understood and is left aside",)


def test_an_swr_that_is_not_the_impedances_own_is_said():
    read = table.read(rows("MHz,R,X,SWR", F / 1e6, Z.real, Z.imag, [5.0, 5.0, 5.0]))

    assert "is not that of the impedance against 50" in read.remarks[0]


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"just a line of text\n1\n2\n", "is no heading row"),
        (b"7.0,40,-30\n7.1,50,1\n", "line 1: the table begins with numbers; put a row above them"),
        (b"time,R,X\n1,2,3\n2,2,3\n", "no column is the frequency"),
        (b"Frequency,R,X\n1,2,3\n2,2,3\n", "the frequency has no unit"),
        (b"MHz,R,X\n7.0,40,-30\n", "fewer than two points"),
        (b"MHz,R\n7.0,40\n7.1,41\n", "make no impedance"),
        (b"MHz,R,X\n7.0,40,-30\n7.1,50\n", "line 3: 2 cells where the heading has 3"),
        (b"MHz,R,X\n7,0,40,-30\n7,1,50,1\n", "with decimal commas use semicolons"),
        (b"MHz,R,X\n7.0,forty,-30\n7.1,50,1\n", "line 2: “forty” is not a number"),
        (b"MHz,R,X\n7.0,nan,-30\n7.1,50,1\n", "line 2: “nan” is not a finite number"),
        (b"MHz,R,X\n7.1,40,-30\n7.0,50,1\n", "line 3: 7 MHz lies below"),
        (b"MHz,R,X\n\n7.1,40,-30\n7.1,50,1\n", "line 4: 7.1 MHz repeats"),
        (b"MHz,R,X\n-7.1,40,-30\n7.1,50,1\n", "line 2: the frequency is"),
        (b"MHz,R,X\n7.0,-20,0\n7.1,50,1\n", "line 2: |Γ| is 2.333"),
        (b"MHz,Re Gamma,Im Gamma\n7.0,1,0\n7.1,0,0\n", "line 2: the point is an exact open"),
        (b"MHz,SWR\n7.0,0.5\n7.1,2\n", "line 2: the SWR is 0.5"),
        (b"# only a remark\n", "holds no table"),
        (b'MHz,R,X\n7.0,"40,-30\n7.1,50,1\n', "line 2:"),
    ],
)
def test_refusals_name_the_line_and_what_to_do(data, words):
    with pytest.raises(UnreadableError) as refused:
        table.read(data)

    assert words in str(refused.value)


@given(
    st.lists(
        st.tuples(st.floats(0.001, 5000), st.floats(-5000, 5000)),
        min_size=2,
        max_size=30,
    )
)
def test_what_is_written_is_read_again(pairs):
    sweep = Sweep(np.linspace(1e6, 60e6, len(pairs)), np.array([complex(r, x) for r, x in pairs]))
    again = table.read(table.write(sweep)).found

    assert again.frequency_hz == pytest.approx(sweep.frequency_hz, rel=1e-11)
    assert again.impedance_ohm == pytest.approx(sweep.impedance_ohm, rel=1e-8, abs=1e-8)


def test_readings_are_written_and_read_again():
    readings = SwrSweep(F, np.array([1.5, 1.2, 3.0]))

    assert table.read(table.write_readings(readings)).found.swr == pytest.approx(readings.swr)


class TestFiles:
    S1P = b"# MHz S RI R 50\n7 0.1 0\n8 0.2 0\n"

    @pytest.mark.parametrize("name", ["wire.s1p", "wire.csv", "", "pasted"])
    def test_the_content_decides_what_a_file_is(self, name):
        assert files.read(self.S1P, name).found.low_hz == 7e6
        if not name.endswith("s1p"):
            assert files.read(b"MHz,R,X\n7,50,0\n8,50,1\n", name).found.low_hz == 7e6

    def test_a_remark_in_a_table_is_no_option_line(self):
        assert files.read(b"# R and X of the loft wire\nMHz,R,X\n7,50,0\n8,50,1\n").found.high_hz == 8e6

    def test_s11_is_taken_from_two_ports_when_asked(self):
        data = b"# MHz S RI R 50\n7 0.1 0.2 9 9 9 9 9 9\n8 0.3 0 9 9 9 9 9 9\n"
        with pytest.raises(UnreadableError) as refused:
            files.read(data, "two.s2p")
        assert refused.value.more["offers"] == ["S11"]

        taken = files.read(data, "two.s2p", "S11").found
        assert taken.reflection() == pytest.approx([0.1 + 0.2j, 0.3])

    def test_s11_of_a_version_2_file(self):
        data = (
            b"[Version] 2.0\n# MHz S RI R 75\n[Number of Ports] 2\n[Two-Port Data Order] 12_21\n"
            b"[Number of Frequencies] 2\n[Network Data]\n7 0.1 0 9 9 9 9 9 9\n8 0.2 0 9 9 9 9 9 9\n[End]\n"
        )

        assert files.read(data, take="S11").found.reflection(75.0) == pytest.approx([0.1, 0.2])

    def test_z_of_two_ports_is_no_s11(self):
        data = b"# MHz Z RI R 50\n7 1 0 0 0 0 0 1 0\n8 1 0 0 0 0 0 1 0\n"
        with pytest.raises(UnreadableError, match="these are Z: export S parameters"):
            files.read(data, take="S11")

    def test_one_frequency_is_no_sweep(self):
        with pytest.raises(UnreadableError, match="sweep over a band"):
            files.read(b"# MHz S RI R 50\n7 0 0\n")


def test_a_large_file_and_the_same_file_line_by_line_give_the_same():
    """The quick way is taken for plain rows; a remark in the middle sends all of them the careful way."""
    f = np.linspace(1e6, 60e6, 5000)
    body = "".join(f"{a:.3f} {0.5 * np.cos(a / 1e6):.6f} {0.4 * np.sin(a / 1e6):.6f}\n" for a in f)
    quick = files.read(f"# Hz S RI R 50\n{body}".encode()).found
    careful = files.read(f"# Hz S RI R 50\n{body}! the end\n".encode()).found

    assert np.array_equal(quick.impedance_ohm, careful.impedance_ohm)
    text = table.write(quick)
    table_quick = table.read(text).found
    table_careful = table.read(text.replace(b"\r\n1000000,", b'\r\n"1000000",', 1)).found
    assert np.array_equal(table_quick.impedance_ohm, table_careful.impedance_ohm)
