"""How each kind of wound thing comes to the bench, and what may have gone wrong with it."""

from typing import get_args

import pytest
from client_helpers import CHOKE, TRAP, beside, unun
from made import design_of

from yielding_coil import data
from yielding_coil.core.bench import setup_of, setups_of, shown_resistor_ohm, winding_suspects
from yielding_coil.core.bench.fixtures import ON_BENCH
from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.finding import FaultCode
from yielding_coil.core.winding import WINDINGS

MATERIALS = list(data.ring_materials().values())
COIL = {"kind": "coil", "key": "x", "place": "series", "inductance_h": 2e-6, "former_m": 0.032, "wire": "cu-1.6"}
RING_COIL = {
    "kind": "ring_coil",
    "key": "x",
    "place": "series",
    "turns": 12,
    "core": {"mix": "2", "size": "T68"},
    "wire": "cu-0.5",
    "crossed": True,
}
AIR = {**CHOKE, "core": None, "former_m": 0.066}


def in_cascade(element):
    return design_of({**unun(), "elements": [element]}).wound("x")


THINGS = {
    "transformer": (design_of(unun(input_capacitance_f=9e-11)).wound("unun"), "resistor"),
    "in hand": (design_of(unun(wiring="three-in-hand", primary_turns=9, crossed=False)).wound("unun"), "common"),
    "stack": (design_of(unun(core={"mix": "43", "size": "FT240", "stack": 2})).wound("unun"), "half"),
    "air coil": (in_cascade(COIL), "alone"),
    "ring coil": (in_cascade(RING_COIL), "link"),
    "choke": (design_of(beside(CHOKE)).wound("choke"), "link"),
    "air choke": (design_of(beside(AIR)).wound("choke"), "alone"),
    "trap": (design_of(beside(TRAP)).wound("trap"), "alone"),
}
ON_FERRITE = {"other_mix", "other_turns", "shorted_turn", "cracked_core"}
ON_AIR = {"shorted_turn", "value_off"}
SELDOM = {"resistor_off", "shorted_turn", "value_off"}
FAULTS_OF = {
    "transformer": ON_FERRITE
    | {"tap_more", "tap_less", "bucking", "capacitor_missing", "capacitor_wrong", "resistor_off"},
    "in hand": ON_FERRITE | {"reversed", "resistor_off"},
    "stack": ON_FERRITE | {"tap_more", "tap_less", "bucking", "one_ring", "resistor_off"},
    "air coil": ON_AIR,
    # Powder has its gap everywhere.
    "ring coil": {"bucking", "other_mix", "other_turns", "shorted_turn"},
    "choke": ON_FERRITE | {"bucking"},
    "air choke": ON_AIR,
    "trap": ON_AIR | {"capacitor_missing", "capacitor_wrong"},
}


@pytest.mark.parametrize("name", THINGS)
def test_every_kind_has_its_faults_and_no_others(name):
    suspects = winding_suspects(THINGS[name][0], 14e6, MATERIALS)

    assert suspects[0].code == "right"
    assert {s.code for s in suspects[1:]} == {"turn_more", "turn_less", *FAULTS_OF[name]}
    # What is right is ten times as likely as any one fault, whose ways to happen share its weight.
    for code in {s.code for s in suspects[1:]} - {"turn_more", "turn_less"}:
        weight = sum(s.weight for s in suspects if s.code == code)
        assert weight <= 1.0 if code in SELDOM else weight == pytest.approx(1.0)


def test_every_code_is_a_fault_that_something_can_have():
    assert {"right", "turn_more", "turn_less"} | set().union(*FAULTS_OF.values()) == set(get_args(FaultCode))


def test_every_kind_that_is_wound_comes_to_the_bench():
    assert set(ON_BENCH) == set(WINDINGS.values())


@pytest.mark.parametrize("name", THINGS)
def test_how_it_is_swept(name):
    thing, one_of = THINGS[name]
    keys = [s.key for s in setups_of(thing)]

    assert one_of in keys
    with pytest.raises(NotFoundError) as refused:
        setup_of(thing, "thrown in the pond")
    assert refused.value.accepted == ", ".join(keys)


def test_a_resistor_counts_as_it_was_measured_where_one_is_put_on():
    """Fifty times the impedance ratio shows 50 Ω through an ideal core."""
    unun_2_16 = THINGS["transformer"][0]

    assert [shown_resistor_ohm(s) for s in setups_of(unun_2_16)] == [3200.0, None, None, 1600.0, None]
    assert setup_of(unun_2_16, "resistor", 3270.0).load_ohm == 3270.0
    assert setup_of(unun_2_16, "open", 3270.0) == setup_of(unun_2_16, "open")
    assert setups_of(unun_2_16, 2450.0)[0].load_ohm == 2450.0
