"""Wound things on the simulated bench: right or with a fault, and the same until they are wound anew."""

import json

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.analyser.simulator import Simulator
from yielding_coil.analyser.windings import WoundThing, ring_factor, turns_ohm
from yielding_coil.core.bench import NUISANCES

F = np.linspace(1.8e6, 30e6, 61)
ALONE = {"key": "alone", "load_ohm": None, "link_turns": None}
ON_RESISTOR = {"key": "resistor", "load_ohm": 3200.0, "link_turns": None}
UNUN = {
    "kind": "transformer",
    "mix": "43",
    "size": "FT240",
    "stack": 1,
    "wiring": "tapped",
    "crossed": True,
    "primary": 2,
    "secondary": 16,
    "leakage_h": 0.15e-6,
    "stray_f": 2.5e-12,
    "input_f": 90e-12,
    "share": 1.0,
    "line": None,
}
BALUN = {
    **UNUN,
    "wiring": "current-balun-1",
    "primary": 10,
    "secondary": 10,
    "input_f": 0.0,
    "share": 0.5,
    "line": {"impedance_ohm": 45.0, "velocity_factor": 0.67, "loss_sqrt": 6.0, "length_m": 0.55},
}
JOINED = {"key": "common", "load_ohm": None, "link_turns": None, "common": True}
CHOKE = {"kind": "ring", "mix": "43", "size": "FT240", "stack": 1, "turns": 11, "crossed": True, "stray_f": 2.5e-12}
COIL = {
    "kind": "coil",
    "turns": 8,
    "inductance_h": 2.2e-6,
    "q": 200.0,
    "q_at_hz": 14e6,
    "capacitance_f": 1.5e-12,
    "spread": 0.04,
}
TRAP = {
    "kind": "trap",
    "turns": 7.5,
    "inductance_h": 1.38e-6,
    "capacitance_f": 31e-12,
    "q": 300.0,
    "own_f": 1.4e-12,
    "spread": 0.04,
}


def wound(spec, fault="none", setup=ALONE, seed=1):
    return WoundThing(json.dumps({**spec, "fault": fault, "setup": setup}), seed)


@pytest.mark.parametrize(
    ("spec", "setup"),
    [(UNUN, ON_RESISTOR), (BALUN, JOINED), (CHOKE, ALONE), (COIL, ALONE), (TRAP, ALONE)],
    ids=["unun", "balun", "choke", "coil", "trap"],
)
def test_right_ones_return_no_more_than_came(spec, setup):
    gamma = wound(spec, setup=setup).reflection(F)

    assert gamma.shape == F.shape
    assert np.abs(gamma).max() <= 1


@pytest.mark.parametrize(
    ("spec", "fault"),
    [(UNUN, "bucking"), (UNUN, "turn_more"), (CHOKE, "bucking"), (COIL, "turn_less"), (TRAP, "capacitor_missing")],
)
def test_a_fault_shows(spec, fault):
    setup = ON_RESISTOR if spec is UNUN else ALONE
    right, wrong = wound(spec, setup=setup), wound(spec, fault, setup)

    assert wrong.suspect.code == fault
    assert np.abs(right.reflection(F) - wrong.reflection(F)).max() > 0.01


def test_a_current_balun_shows_its_line_on_the_resistor_and_its_core_with_its_wires_joined():
    """On 50 Ω a line of 45 Ω and 0.55 m shows little; joined, ten turns on the core show kilohms (practice)."""
    on_50 = wound(BALUN, setup={**ON_RESISTOR, "load_ohm": 50.0}).reflection(F)
    right, wrong = (wound(BALUN, fault, JOINED).reflection(F) for fault in ("none", "bucking"))

    assert np.abs(on_50).max() < 0.2
    assert np.abs(50 * (1 + right) / (1 - right)).max() > 2e3
    assert np.abs(50 * (1 + wrong) / (1 - wrong)).max() < 200


def test_it_is_the_same_until_it_is_wound_anew_and_mending_keeps_its_core():
    first, again, mended = wound(UNUN, "any"), wound(UNUN, "any"), wound(UNUN)

    assert first.suspect.code == again.suspect.code != "right"
    assert first.reflection(F) == pytest.approx(again.reflection(F))
    core = NUISANCES + [s.field for s in mended.suspect.spreads].index("permeability_factor")
    assert mended.deviates[0, core] == pytest.approx((ring_factor(1, "43", "FT240") - 1) / 0.1)


def test_another_seed_is_another_bench():
    assert ring_factor(1, "43", "FT240") != ring_factor(2, "43", "FT240")
    assert np.abs(wound(UNUN).reflection(F) - wound(UNUN, seed=2).reflection(F)).max() > 1e-4


@pytest.mark.parametrize("seed", range(30))
def test_rings_stay_within_what_is_said_of_them(seed):
    """At most 16 % off for a ferrite: 1.6 standard deviations of its 20 %."""
    assert abs(ring_factor(seed, "61", "FT140") - 1) <= 0.16 + 1e-12


def test_turns_on_a_ring_show_its_own_permeability():
    """Far below resonance: jωL with the ring's factor, and its leads."""
    low = np.array([0.2e6])
    henry = data.ring_size("FT240").area_m2 / data.ring_size("FT240").path_m * 4e-7 * np.pi * 81
    mu = data.ring_material("43").permeability(low)[0] * ring_factor(1, "43", "FT240")

    assert turns_ohm(1, 9, "43", "FT240", low)[0].imag == pytest.approx(
        2 * np.pi * 0.2e6 * (henry * mu.real + 14e-9), rel=2e-3
    )


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("no json", "a winding as a JSON object"),
        ("[1, 2]", "a winding as a JSON object"),
        (json.dumps({**UNUN, "fault": "none"}), "a winding as a JSON object"),
        (
            json.dumps({**UNUN, "fault": "moths", "setup": ALONE}),
            "there is no fault moths of this; there are turn_more",
        ),
        (
            json.dumps(
                {
                    **COIL,
                    "kind": "spring",
                    "mix": "43",
                    "size": "FT240",
                    "stack": 1,
                    "fault": "none",
                    "setup": ALONE,
                }
            ),
            "no winding spring",
        ),
    ],
)
def test_what_is_not_understood_is_said(text, words):
    with pytest.raises(ValueError, match=words):
        WoundThing(text, 1)


def test_over_its_socket_the_simulator_winds_and_complains():
    simulator = Simulator(1, clock=lambda: 0.0, wait=lambda s: None)
    assert simulator.answer('BENC:CONN "wound"') is None
    assert b"there is no wound on this bench" in simulator.answer("SYST:ERR?")

    simulator.answer("BENC:WOUN " + json.dumps({**UNUN, "fault": "bucking", "setup": ON_RESISTOR}))
    assert simulator.answer("BENC:CONN?") == b'"wound"'
    assert simulator.answer("SYST:ERR?").startswith(b"0")
    assert np.abs(simulator.true_reflection(F) - wound(UNUN, "bucking", ON_RESISTOR).reflection(F)).max() < 1e-12
    simulator.answer("BENC:WOUN {}")
    assert b"a winding as a JSON object" in simulator.answer("SYST:ERR?")
    # What was there before still is.
    assert simulator.answer("BENC:CONN?") == b'"wound"'
    assert b"wound=what you wound last" in simulator.answer("BENC:CAT?")
