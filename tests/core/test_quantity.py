import pytest

from yielding_coil.core.errors import OutOfDomainError, UnreadableTextError
from yielding_coil.core.quantity import parse, plain_forms


@pytest.mark.parametrize(
    ("text", "kind", "value"),
    [
        ("3.6", "frequency", 3.6e6),
        ("3600k", "frequency", 3.6e6),
        ("3600 kHz", "frequency", 3.6e6),
        ("21.2mhz", "frequency", 21.2e6),
        ("33u", "inductance", 33e-6),
        ("33 µH", "inductance", 33e-6),
        ("2u28", "inductance", 2.28e-6),
        (" 2.28 ", "inductance", 2.28e-6),
        ("330 nH", "inductance", 330e-9),
        ("120p", "capacitance", 120e-12),
        ("1n5", "capacitance", 1.5e-9),
        ("6,5", "capacitance", 6.5e-12),
        ("1e-9 F", "capacitance", 1e-9),
        ("3k2", "resistance", 3200),
        ("2.45 kΩ", "resistance", 2450),
        ("50 ohm", "resistance", 50),
        ("100", "power", 100),
        ("0.1kW", "power", 100),
        ("8ft 3in", "length", 2.5146),
        ("8' 3 1/2\"", "length", 2.5273),
        ("8' 3 ½″", "length", 2.5273),
        ("8 ft", "length", 2.4384),
        ("8'", "length", 2.4384),
        ("20 in", "length", 0.508),
        ('5/16"', "length", 0.0079375),
        ("2,5 m", "length", 2.5),
        ("64 mm", "length", 0.064),
        ("8.75", "length", 8.75),
        ("0", "length", 0),
        ("1.6", "wire", 1.6e-3),
        ("1/2 in", "wire", 0.0127),
        ("7 1/2", "turns", 7.5),
        ("7½", "turns", 7.5),
        ("7 turns", "turns", 7),
        ("1.5 : 1", "ratio", 1.5),
        ("3 kV", "voltage", 3000),
        ("1k5", "voltage", 1500),
        ("500", "voltage", 500),
        ("200 mA", "current", 0.2),
        ("5", "share", 0.05),
        ("2,5 %", "share", 0.025),
        ("1075", "inductance factor", 1075e-9),
        ("1.1 µH", "inductance factor", 1.1e-6),
    ],
)
def test_what_people_write(text, kind, value):
    assert parse(text, kind) == pytest.approx(value, rel=1e-12, abs=0)


def test_a_bare_length_follows_the_switch():
    assert parse("8.5", "length", "ft") == pytest.approx(2.5908)


@pytest.mark.parametrize(("text", "millimetres"), [("14 AWG", 1.628), ("#18", 1.024), ("10awg", 2.588)])
def test_wire_gauges(text, millimetres):
    """ASTM B258, table 1, printed to 0.001 mm."""
    assert parse(text, "wire") * 1e3 == pytest.approx(millimetres, abs=6e-4)


@pytest.mark.parametrize(
    ("text", "kind", "words"),
    [
        ("", "inductance", "the field is empty. Write it like 2.28"),
        ("   ", "length", "the field is empty"),
        ("--3", "length", "“--3” is not understood as a length: it does not begin with one number"),
        ("8feet", "length", "did you mean 8 ft"),
        ("1,500", "capacitance", "may mean 1.500 or 1500"),
        ("1,234,567", "power", "no commas for thousands"),
        ("1.234,5", "power", "no commas for thousands"),
        ("5 pF", "inductance", "“pF” is no unit of it"),
        ("abc", "frequency", "does not begin with one number"),
        ("3 4", "power", "is no unit of it|does not begin with one number"),
        ("5.5' 3\"", "length", "decimals of a foot and inches together"),
        ("5' 14\"", "length", "14 inches are more than a foot"),
        ("5' 1/0\"", "length", "nothing below its line"),
        ("nan", "power", "does not begin with one number"),
        ("inf", "power", "does not begin with one number"),
    ],
)
def test_what_is_refused_says_why_and_how_to_write_it(text, kind, words):
    with pytest.raises(UnreadableTextError, match=words):
        parse(text, kind)


@pytest.mark.parametrize(("text", "kind"), [("0", "turns"), ("-3", "length"), ("0 pF", "capacitance")])
def test_nothing_and_less_than_nothing_are_refused(text, kind):
    with pytest.raises(OutOfDomainError, match="it must be (above zero|zero or more)"):
        parse(text, kind)


def test_too_large_to_be_a_number_is_refused():
    with pytest.raises(OutOfDomainError):
        parse("9e999", "power")


@pytest.mark.parametrize(
    ("text", "kind", "value"),
    [
        ("0", "stray capacitance", 0.0),
        ("0.06", "stray capacitance", 0.06e-12),
        ("60 fF", "stray capacitance", 60e-15),
        ("0.2", "stray inductance", 0.2e-9),
        ("200 pH", "stray inductance", 200e-12),
        ("0,66", "velocity", 0.66),
    ],
)
def test_values_of_standards_and_lines(text, kind, value):
    assert parse(text, kind) == pytest.approx(value)


def test_a_velocity_is_above_zero():
    with pytest.raises(OutOfDomainError, match="above zero"):
        parse("0", "velocity")


@pytest.mark.parametrize(
    ("text", "meant"),
    [("14200", "14.2 MHz"), ("3650", "3.65 MHz"), ("14.2 hz", "14.2 MHz"), ("7100000", "7.1 MHz")],
)
def test_a_frequency_that_no_antenna_is_for_asks_for_the_one_that_was_meant(text, meant):
    with pytest.raises(UnreadableTextError) as refused:
        parse(text, "frequency")
    assert refused.value.more["suggested"] == meant
    assert parse(meant, "frequency") == pytest.approx(float(meant.split()[0]) * 1e6)


@pytest.mark.parametrize(("text", "mhz"), [("14,200", 14.2), ("3,168", 3.168), ("28,5", 28.5)])
def test_a_comma_that_means_one_frequency_either_way_is_read(text, mhz):
    assert parse(text, "frequency") == pytest.approx(mhz * 1e6)


class TestPlainForms:
    """What a page reads by itself out of reach: SI prefixes (BIPM), the international foot and inch (1959)."""

    @pytest.mark.parametrize(
        ("kind", "unit", "size"),
        [
            ("frequency", "MHz", 1e6),
            ("frequency", "kHz", 1e3),
            ("frequency", "", 1e6),
            ("length", "cm", 0.01),
            ("length", "ft", 0.3048),
            ("length", '"', 0.0254),
            ("ratio", "", 1.0),
            ("ratio", ": 1", 1.0),
            ("resistance", "kΩ", 1e3),
            ("power", "W", 1.0),
        ],
    )
    def test_a_unit(self, kind, unit, size):
        assert plain_forms()[kind].units[unit] == size

    @pytest.mark.parametrize("kind", plain_forms())
    def test_each_is_read_as_the_reader_reads_it(self, kind):
        form = plain_forms()[kind]
        for unit, size in form.units.items():
            number = 50e6 / size if kind == "frequency" else 3.0
            assert parse(f"{number:.0f} {unit}", kind) == pytest.approx(number * size, rel=1e-12), unit
        assert form.least <= parse(form.example, kind) <= form.most

    def test_a_bare_length_is_the_readers_to_choose(self):
        assert "" not in plain_forms()["length"].units
