"""The parts list against what lies in the drawer."""

from yielding_coil.core.sheet import Holding, Thing, from_drawer

RING = {"mix": "43", "size": "FT240"}


def ring(count=1, part="unun"):
    return Thing("ring", "FT240-43", part, count, None, RING)


def capacitor(farad=94e-12, volts=83.0):
    return Thing("capacitor", "", "unun", 1, None, {"capacitance_f": farad, "voltage_v": volts})


def held(kind, traits, **more):
    return Holding(kind, "mine", traits, **more)


def test_what_one_line_takes_is_gone_for_the_next():
    drawer = [held("ring", RING, count=1, price="9.50 each")]
    first, second = from_drawer([ring(), ring(part="choke")], drawer)
    assert (first.source, first.have, first.price) == ("drawer", 1, "9.50 each")
    assert (second.source, second.have) == ("buy", None)


def test_ten_of_them_say_how_many_are_short():
    found = from_drawer([ring(2)], [held("ring", RING, count=5)], builds=10)[0]
    assert (found.count, found.source, found.have) == (20, "too_few", 5)


def test_uncounted_is_there_and_a_measured_one_comes_first():
    drawer = [held("ring", RING), held("ring", RING, measured=True)]
    assert from_drawer([ring()], drawer)[0].source == "measured"
    # The measured one alone does not make ten.
    drawer = [held("ring", RING), held("ring", RING, measured=True, count=1)]
    assert from_drawer([ring()], drawer, builds=10)[0].source == "drawer"


def test_a_capacitor_must_be_the_value_and_stand_the_volts():
    low = held("capacitor", {"capacitance_f": 94e-12, "voltage_v": 50.0})
    other = held("capacitor", {"capacitance_f": 120e-12, "voltage_v": 500.0})
    right = held("capacitor", {"capacitance_f": 91e-12, "voltage_v": 500.0})
    assert from_drawer([capacitor()], [low, other])[0].source == "buy"
    assert from_drawer([capacitor()], [low, other, right])[0].source == "drawer"


def test_wire_and_cable_are_not_counted_away():
    wire = [Thing("wire", "1.0 mm", "unun", 1, m, {"diameter_m": 0.001}) for m in (1.06, 0.22)]
    found = from_drawer(wire, [held("wire", {"diameter_m": 0.00101}, count=1)])
    assert [t.source for t in found] == ["drawer", "drawer"]


def test_nothing_of_another_mix_or_size():
    assert from_drawer([ring()], [held("ring", {"mix": "31", "size": "FT240"})])[0].source == "buy"
    assert from_drawer([ring()], [held("wire", RING)])[0].source == "buy"
