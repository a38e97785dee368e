"""What may go wrong with a winding, as lists of suspects: which, how many, and what each then is."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil import data
from yielding_coil.core.bench import BenchSweep, bucking_turns, classify, seen_of
from yielding_coil.core.bench import suspects as faults
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.parts import Inductor
from yielding_coil.core.reflection import impedance_of
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap
from yielding_coil.core.winding import WIRINGS, wiring

RING = Ring(data.ring_material("43"), data.ring_size("FT240"))
CORE = Spread("core", "unun", "permeability_factor", 0.2)


def codes(suspects):
    return {s.code for s in suspects}


def unun(m=2, n=16, ring=RING, **more):
    return Transformer(ring, m, n, 0.15e-6, 2.5e-12, **more)


@pytest.mark.parametrize("key", WIRINGS)
def test_every_wiring_has_its_own_slips(key):
    way = wiring(key)
    m, n = (2, 16) if way.in_hand == 1 else (9, 9 * (way.ratio or 1))
    found = codes(faults.transformer_suspects(unun(m, n), [CORE], wiring=way))

    assert {"right", "turn_more", "turn_less"} <= found
    # Only where turns are counted is there a tap to miss; only wires joined one after another can be turned round.
    assert ("tap_more" in found) == (way.in_hand == 1)
    assert ("reversed" in found) == (way.in_hand > 1 and not way.as_line)
    # Straight round, one ring, no capacitor: nothing of that can be wrong.
    assert not found & {"bucking", "one_ring", "capacitor_missing", "capacitor_wrong"}


def test_a_stack_crossed_over_with_a_capacitor_has_all_of_them():
    two = Ring(RING.material, RING.size, 2)
    others = [Ring(data.ring_material(m), RING.size, 2) for m in ("31", "61")]
    found = faults.transformer_suspects(
        unun(ring=two, input_capacitance_f=90e-12), [CORE], wiring=wiring("tapped"), crossed=True, others=others
    )

    assert {"bucking", "one_ring", "capacitor_missing", "capacitor_wrong", "other_mix"} <= codes(found)
    assert {s.values["mix"] for s in found if s.code == "other_mix"} == {"31", "61"}
    assert next(s for s in found if s.code == "one_ring").part.ring.stack == 1
    assert next(s for s in found if s.code == "capacitor_missing").part.input_capacitance_f == 0
    # Those of one code share its weight.
    for code in ("other_mix", "capacitor_wrong"):
        assert sum(s.weight for s in found if s.code == code) == pytest.approx(1)


@pytest.mark.parametrize("m", [1, 2, 3])
def test_a_primary_keeps_at_least_a_turn_and_stays_within_the_winding(m):
    found = faults.transformer_suspects(unun(m, 3), [CORE], wiring=wiring("tapped"))

    for s in found:
        assert 1 <= s.part.primary_turns <= s.part.secondary_turns
    assert ("tap_less" in codes(found)) == (m > 1)
    assert ("tap_more" in codes(found)) == (m < 3)


@given(st.integers(2, 60))
def test_bucking_leaves_nothing_or_a_turn(turns):
    assert bucking_turns(turns) == turns % 2


def test_leakage_grows_with_the_turns_of_the_primary():
    found = faults.transformer_suspects(unun(), [CORE], wiring=wiring("tapped"))
    more = next(s for s in found if s.code == "tap_more")

    assert float(np.asarray(more.part.leakage_h)) == pytest.approx(0.15e-6 * (3 / 2) ** 1.55)


@pytest.mark.parametrize(
    ("kind", "left", "factor"), [("two-in-hand", 0, math.inf), ("three-in-hand", 1, 9.0), ("four-in-hand", 2, 4.0)]
)
def test_a_wire_turned_round_takes_two_wires_away(kind, left, factor):
    way = wiring(kind)
    found = faults.transformer_suspects(unun(9, 9 * way.ratio), [CORE], wiring=way)
    turned = next(s for s in found if s.code == "reversed")

    assert turned.values["wires"] == left
    assert turned.load_factor == factor


def test_a_choke_alone():
    found = faults.ring_suspects(RingCoil(RING, 9, 2e-12), [CORE], crossed=True)

    on_ferrite = {"other_turns", "cracked_core", "shorted_turn"}
    assert codes(found) == {"right", "turn_more", "turn_less", "bucking"} | on_ferrite
    dead, right = (next(s for s in found if s.code == c) for c in ("bucking", "right"))
    f = np.array([7e6])
    assert abs(dead.part.impedance_ohm(f)[0]) < 0.05 * abs(right.part.impedance_ohm(f)[0])


@pytest.mark.parametrize(("turns", "more"), [(8, 81 / 64), (20, 441 / 400)])
def test_a_turn_of_an_air_coil_goes_by_the_square(turns, more):
    found = faults.coil_suspects(Inductor(2.2e-6), turns, [])

    assert next(s for s in found if s.code == "turn_more").part.inductance_h == pytest.approx(2.2e-6 * more)


def test_a_trap_without_its_capacitor_keeps_what_the_coil_has():
    trap = Trap(1.38e-6, 31e-12, 300)
    spreads = [Spread("c", "t", "capacitance_f", 0.05)]
    found = faults.trap_suspects(trap, 7.5, spreads, own_f=1.4e-12)

    assert next(s for s in found if s.code == "capacitor_missing").part.capacitance_f == 1.4e-12
    shorted = next(s for s in found if s.code == "shorted_turn").part
    assert shorted.q == pytest.approx(30)
    assert shorted.inductance_h < 1.38e-6
    # Of coax there is none to miss.
    assert not codes(faults.trap_suspects(trap, 7.5, spreads, own_f=31e-12)) & {
        "capacitor_missing",
        "capacitor_wrong",
    }


def test_halves_of_wires_in_hand_that_cancel_leave_the_core_out():
    """The input is next to a short, resistor or not; swept as a choke it is dead."""
    way = wiring("two-in-hand")
    found = faults.transformer_suspects(unun(10, 20), [CORE], wiring=way, crossed=True)
    f, one = np.array([3.5e6]), np.zeros((1, 3))
    dead, right = (next(s for s in found if s.code == c) for c in ("bucking", "right"))
    resistor, choke = (
        faults.transformer_setups(200, way.in_hand)[0],
        faults.transformer_setups(200, way.in_hand)[-1],
    )

    assert choke.common
    for setup in (resistor, choke):
        seen = {s.code: complex(seen_of(s, setup, f, one)[0, 0]) for s in (dead, right)}
        ohm = {code: 50 * (1 + g) / (1 - g) for code, g in seen.items()}
        assert abs(ohm["bucking"]) < 0.1 * abs(ohm["right"])


@pytest.mark.deep
def test_a_current_baluns_slips_are_told_as_a_choke_only():
    """On its resistor the line between is all that is seen: dead halves hide until its wires are swept as one."""
    way = wiring("current-balun-1")
    pair = Line(Cable("pair", 50.0, 0.7, 6.0, 0.0), 0.7)
    balun = Transformer(RING, 10, 10, share=0.5, line=pair)
    found = faults.transformer_suspects(balun, [CORE], wiring=way, crossed=True)
    setups = faults.transformer_setups(50, way.in_hand)
    wide = np.linspace(1.8e6, 30e6, 61)
    right = next(s for s in found if s.code == "right")
    seen = [
        Sweep(wide, impedance_of(seen_of(right, s, wide, np.zeros((1, 3)))[0])) for s in (setups[0], setups[-1])
    ]

    both = classify([BenchSweep(setups[0], seen[0]), BenchSweep(setups[-1], seen[1])], found, setups)
    assert "right" in both.codes
    assert "bucking" not in both.codes
    assert "bucking" not in {h.code for h in both.hidden}
