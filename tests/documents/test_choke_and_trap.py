"""Chokes and traps as designs keep them, and materials of one's own."""

import math

import pytest
from pydantic import TypeAdapter, ValidationError
from stored import stands_in

from yielding_coil import data
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.documents.choke_and_trap import Accessory, Choke, WireTrap
from yielding_coil.documents.ring_wound import MaterialValues, RingCore

ANY = TypeAdapter(Accessory)
# As they were first kept; these lines never change.
CHOKE_1 = {
    "kind": "choke",
    "key": "choke",
    "core": {"mix": "43", "size": "FT240", "stack": 1, "al_h": None, "material": None},
    "former_m": None,
    "cable": "ptfe-2.8",
    "outer_m": 0.0028,
    "turns": 11,
    "crossed": True,
    "tail_m": 0.04,
    "current_a": None,
    "piece": None,
}
TRAP_1 = {
    "kind": "trap",
    "key": "trap",
    "tuned_hz": 24.192e6,
    "high_hz": 24.94e6,
    "low_hz": 21.225e6,
    "capacitance_f": 3e-11,
    "capacitance_spread": 0.05,
    "former_m": 0.025,
    "wire": "cu-1.6",
    "wire_piece": None,
    "pitch_m": None,
    "coil_spread": 0.04,
    "cable": None,
    "outer_m": 0.005,
    "housing_f": 1e-12,
    "wire_radius_m": 0.0008,
    "legs": 2,
    "piece": None,
}
POINTS = [
    {"frequency_hz": 1e6, "real": 640.0, "imaginary": 80.0},
    {"frequency_hz": 10e6, "real": 210.0, "imaginary": 190.0},
]


@pytest.mark.parametrize("kept", [CHOKE_1, TRAP_1], ids=["choke", "trap"])
def test_version_1_is_read_and_kept_the_same(kept):
    assert stands_in(kept, ANY.validate_python(kept).model_dump(mode="json"))


def test_a_trap_resonates_where_it_is_tuned_its_own_capacitance_counted():
    trap = WireTrap(**TRAP_1)
    part = trap.to_core().part()

    assert part.resonance_hz == pytest.approx(24.192e6, rel=1e-6)
    assert part.capacitance_f > 30e-12
    # By hand: ω²LC of the fixed capacitor alone would want more inductance.
    assert part.inductance_h < 1 / ((2 * math.pi * 24.192e6) ** 2 * 30e-12)


def test_a_trap_of_coax_has_no_capacitor_of_its_own():
    coax = WireTrap(**{**TRAP_1, "cable": "pe-5", "former_m": 0.032}).to_core()

    assert coax.turns == coax.coax.coil.turns
    assert coax.part().resonance_hz == pytest.approx(24.192e6, rel=0.03)


def test_a_choke_stands_on_a_ring_or_on_a_former_and_not_on_nothing():
    assert Choke(**CHOKE_1).to_core().layout().crosses_after == 6
    air = Choke(**{**CHOKE_1, "core": None, "former_m": 0.066}).to_core()
    assert air.part().inductance_h > 0
    with pytest.raises(OutOfDomainError, match="former_m is none"):
        Choke(**{**CHOKE_1, "core": None}).to_core().part()
    with pytest.raises(OutOfDomainError, match="core is none"):
        air.layout()


def test_a_choke_is_of_coax_or_of_two_wires_and_not_of_nothing():
    pair = Choke(**{**CHOKE_1, "cable": None, "outer_m": None, "wire": "pvc-0.75"}).to_core()
    row = data.wire("pvc-0.75")

    assert [s.name for s in pair.layout().strands] == ["red", "blue"]
    assert pair.line.across_m == pytest.approx(2 * row.covered_m)
    # The common current meets the same core, whatever carries it.
    f = 14.2e6
    assert pair.part().impedance_ohm(f) == pytest.approx(Choke(**CHOKE_1).to_core().part().impedance_ohm(f))
    own = {"metal": "copper", "diameter_m": 0.9e-3, "covered_m": 1.9e-3}
    taken = {"id": "00000000-0000-4000-8000-000000000000", "revision": 3, "values": own}
    mine = Choke(**{**CHOKE_1, "cable": None, "outer_m": None, "wire_piece": taken}).to_core()
    assert mine.line.thick_m == 1.9e-3
    for missing in ({"cable": None}, {"outer_m": None}):
        with pytest.raises(OutOfDomainError, match="coax and its thickness, or a wire that two of are wound"):
            Choke(**{**CHOKE_1, **missing}).to_core().layout()


def test_an_air_choke_of_a_pair_takes_both_wires_side_by_side():
    air = Choke(
        **{**CHOKE_1, "core": None, "former_m": 0.066, "cable": None, "outer_m": None, "wire": "pvc-0.75"}
    ).to_core()
    row = data.wire("pvc-0.75")

    assert air.coil.length_m == pytest.approx(11 * 2 * row.covered_m)
    # Coax of the same width over all is the thicker conductor, and takes a little less inductance.
    coax = Choke(**{**CHOKE_1, "core": None, "former_m": 0.066, "outer_m": 2 * row.covered_m}).to_core()
    assert 0.9 < coax.part().inductance_h / air.part().inductance_h < 1.1


def test_a_material_of_ones_own_replaces_the_curve_and_keeps_the_rest_of_its_mix():
    values = MaterialValues(points=POINTS, tolerance=0.03, like="43")
    snapshot = {"id": "00000000-0000-4000-8000-000000000000", "revision": 1, "values": values}
    own = RingCore(mix="43", size="FT240", material=snapshot).to_core()
    nominal = data.ring_material("43")

    assert own.spread == 0.03
    assert complex(own.ring.material.permeability(1e6)) == pytest.approx(640 - 80j)
    assert own.ring.material.curie_c == nominal.curie_c
    assert "as you measured it from 1 to 10 MHz" in own.ring.material.note
    # A measured curve of powder is not scaled to the trade's factor.
    powder = RingCore(mix="2", size="T68", material=snapshot).to_core().ring
    assert powder.one_al_h == pytest.approx(powder.computed_al_h)


@pytest.mark.parametrize("points", [[], POINTS[:1], [{**POINTS[0], "real": -1.0}, POINTS[1]]])
def test_a_curve_needs_two_points_above_zero(points):
    with pytest.raises(ValidationError):
        MaterialValues(points=points, tolerance=0.03)
