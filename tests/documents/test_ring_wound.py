"""Things wound on rings as designs keep them: what becomes of them in the core, how they stray, old payloads."""

import math

import numpy as np
import pytest
from pydantic import TypeAdapter, ValidationError
from stored import stands_in

from yielding_coil import data
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.system import Element, System
from yielding_coil.core.tolerance import sample, sampled
from yielding_coil.core.winding import WIRINGS
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import AnyElement, DesignContent
from yielding_coil.documents.ring_wound import CoilOnRing, RingCore, WoundTransformer

ANY = TypeAdapter(AnyElement)
FT240_43 = {"mix": "43", "size": "FT240"}
# As version 1 first wrote them: kept for ever, so that what was saved then is read always.
UNUN_1 = {
    "key": "unun",
    "core": {"mix": "43", "size": "FT240", "stack": 1, "al_h": None},
    "wire": "cu-1",
    "twisted": True,
    "crossed": True,
    "tape_m": 0.0,
    "tail_m": 0.045,
    "piece": {"id": "00000000-0000-4000-8000-000000000001", "revision": 1, "values": {"mix": "43"}},
    "wire_piece": {
        "id": "00000000-0000-4000-8000-000000000002",
        "revision": 3,
        "values": {"metal": "copper", "diameter_m": 0.001, "covered_m": 0.0011},
    },
    "kind": "transformer",
    "place": "through",
    "wiring": "tapped",
    "primary_turns": 2,
    "secondary_turns": 16,
    "primary_wire": True,
    "leakage_h": None,
    "winding_capacitance_f": None,
    "input_capacitance_f": 9.3e-11,
    "input_q": 1500.0,
}
RING_COIL_1 = {
    "key": "coil",
    "core": {"mix": "2", "size": "T68", "stack": 1, "al_h": 5.8e-9},
    "wire": "cu-0.5",
    "twisted": True,
    "crossed": False,
    "tape_m": 0.0,
    "tail_m": 0.045,
    "piece": None,
    "wire_piece": None,
    "kind": "ring_coil",
    "place": "series",
    "turns": 19,
    "winding_capacitance_f": 2e-12,
}


def unun(**changes):
    made = {"key": "unun", "core": FT240_43, "wire": "cu-1", "wiring": "tapped", "primary_turns": 2}
    return WoundTransformer(**{**made, "secondary_turns": 16, **changes})


def wound(**changes):
    return unun(**changes).to_core()


@pytest.mark.parametrize("kept", [UNUN_1, RING_COIL_1], ids=["unun", "ring coil"])
def test_version_1_of_a_wound_thing_is_read_and_written_unchanged(kept):
    assert stands_in(kept, ANY.validate_python(kept).model_dump(mode="json"))


@pytest.mark.parametrize("wiring", WIRINGS)
def test_wires_in_hand_fix_the_secondary(wiring):
    way = WIRINGS[wiring]
    made = wound(wiring=wiring, primary_turns=4, secondary_turns=16)

    assert made.secondary == (16 if way.ratio is None else 4 * way.ratio)
    part = made.part(14e6)
    assert part.turns_ratio == made.secondary / 4
    assert (part.line is not None) == way.as_line
    assert len(made.layout().strands) == (2 if way.in_hand == 1 else way.in_hand)


def test_below_a_tap_runs_the_difference_of_both_currents():
    """Kirchhoff at the tap of 2 in 16: the lower two turns carry 1 − 2/16 of the input's current."""
    tapped, own = wound(primary_wire=False).part(0), wound().part(0)

    assert tapped.primary is not None
    assert tapped.primary.share == pytest.approx(0.875)
    assert own.primary is not None
    assert own.primary.share == 1.0
    # What lies above the tap is fourteen turns; a wire of its own runs all sixteen.
    assert tapped.secondary is not None
    assert own.secondary is not None
    assert tapped.secondary.length_m == pytest.approx(own.secondary.length_m * 14 / 16, rel=0.05)


def test_what_is_not_told_is_nominal_and_strays_and_what_is_told_does_not():
    nominal, told = wound(), wound(leakage_h=0.12e-6, winding_capacitance_f=2e-12)

    assert {s.name for s in nominal.spreads(0)} == {"unun", "unun leakage", "unun capacitance"}
    assert {s.name for s in told.spreads(0)} == {"unun"}
    assert told.part(0).leakage_h == 0.12e-6
    # 0.05 to 0.25 µH on a primary of a few turns, 2 to 5 pF across (ranges from memory).
    for turns in (1, 2):
        assert 0.05e-6 <= wound(primary_turns=turns).nominal_leakage_h <= 0.25e-6
    for crossed in (True, False):
        assert 2e-12 <= wound(crossed=crossed).nominal_capacitance_f <= 5e-12


def test_no_build_has_a_stray_field_below_zero():
    """Ranges from memory are wide: a normal of that spread turns negative once in a thousand."""
    made = wound(input_capacitance_f=90e-12)
    system = System(FixedLoad(3200.0), [Element("unun", "through", made.part(0))])
    spreads = made.spreads(0)

    part = sampled(system, spreads, sample(spreads, np.random.default_rng(20261124), 4096)).elements[0].part

    for field in ("leakage_h", "winding_capacitance_f", "input_capacitance_f", "permeability_factor"):
        assert np.min(getattr(part, field)) > 0, field
    assert np.std(part.permeability_factor) == pytest.approx(0.1, rel=0.03)


def test_a_measured_ring_is_known_to_a_percent_and_its_factor_counts():
    nominal = wound()
    al = 1.3 * nominal.core.ring.computed_al_h
    measured = wound(core={**FT240_43, "al_h": al})

    assert (nominal.spread, measured.spread) == (0.2, 0.01)
    ratio = measured.part(0).magnetising_ohm(7e6) / nominal.part(0).magnetising_ohm(7e6)
    assert ratio == pytest.approx(1.3)


def test_a_pair_of_wires_as_a_line():
    """Two round wires: 120/√εr·acosh(s/d) Ω (Pozar, 4th ed., Table 2.1); εr 2.2 between them (from memory)."""
    pair = wound(wiring="current-balun-1", primary_turns=10).pair

    assert float(pair.cable.impedance_ohm) == pytest.approx(120 / math.sqrt(2.2) * math.acosh(1.08), rel=1e-9)
    # Two of them side by side at the radio of a 4:1 balun.
    four = wound(wiring="current-balun-4-two", primary_turns=10).part(0)
    assert four.line is not None
    assert float(four.line.cable.impedance_ohm) == pytest.approx(float(pair.cable.impedance_ohm) / 2)


def test_wire_of_ones_own_in_an_air_coil():
    """Steel of the same size loses more; its turns stay those of its outer size."""
    own = {"id": "00000000-0000-4000-8000-000000000002", "revision": 1}
    values = {"diameter_m": 1.6e-3, "covered_m": 1.7e-3}
    made = {"key": "coil", "place": "series", "inductance_h": 2e-6, "former_m": 0.032, "wire": "cu-1.6"}
    copper, steel = (
        Coil(**made, wire_piece={**own, "values": {**values, "metal": m}}).to_core() for m in ("copper", "steel")
    )

    assert copper.exact_turns(14e6) == pytest.approx(Coil(**made).to_core().exact_turns(14e6))
    assert steel.exact_turns(14e6) == copper.exact_turns(14e6)
    assert steel.part(14e6).q < 0.1 * copper.part(14e6).q


def test_turns_on_a_ring_come_nearest_to_an_inductance():
    coil = CoilOnRing(key="c", place="series", turns=1, core=RingCore(mix="2", size="T68"), wire="cu-0.5").to_core()
    ring = coil.core.ring

    for henry in (0.3e-6, 1e-6, 2.28e-6, 5e-6):
        turns = coil.turns_for(henry)
        off = [abs(math.sqrt(ring.inductance_h(n) / henry) - 1) for n in (turns - 1, turns, turns + 1) if n > 0]
        assert min(off) == pytest.approx(abs(math.sqrt(ring.inductance_h(turns) / henry) - 1))


def test_refusals():
    with pytest.raises(OutOfDomainError, match="at most the 16 turns of the whole winding"):
        wound(primary_turns=17).part(0)
    with pytest.raises(NotFoundError, match="no mix “soap”"):
        wound(core={"mix": "soap", "size": "FT240"})
    with pytest.raises(NotFoundError, match="no wire “rope”"):
        wound(wire="rope")
    for bad in ({"wiring": "knitted"}, {"primary_turns": 0}, {"core": {**FT240_43, "stack": 0}}, {"tail_m": -1}):
        with pytest.raises(ValidationError):
            unun(**bad)
    with pytest.raises(ValidationError, match="covered_m"):
        unun(wire_piece={"id": "00000000-0000-4000-8000-000000000002", "revision": 1, "values": {}})


def test_a_tap_lies_inside_its_coil():
    coil = Coil(key="c", place="series", inductance_h=2e-6, former_m=0.032, wire="cu-1.6", tap_turns=40)
    content = {
        "antenna": {"kind": "resistor", "resistance_ohm": 50},
        "targets": [{"label": "20 m", "low_hz": 14e6, "high_hz": 14.35e6, "swr_limit": 2}],
        "elements": [coil.model_dump()],
    }

    with pytest.raises(OutOfDomainError, match="tap_turns is 40; it must be less than"):
        DesignContent(**content).to_core(FixedLoad(50.0)).system()


def test_every_wire_of_the_table_winds():
    for key in data.wires():
        made = wound(wire=key, secondary_turns=4)
        assert made.part(0).primary is not None
        assert made.layout().cuts()[0].cut_m > 0
