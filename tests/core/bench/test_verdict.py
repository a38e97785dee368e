from dataclasses import replace

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.bench import NUISANCES, BenchSweep, Fixture, Hypothesis, bucking_turns, classify, seen_of
from yielding_coil.core.bench import suspects as faults
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import Inductor
from yielding_coil.core.reflection import impedance_of
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.winding import wiring

F = np.linspace(1.8e6, 30e6, 101)
RING = Ring(data.ring_material("43"), data.ring_size("FT240"))
UNUN = Transformer(RING, 2, 16, 0.15e-6, 2.5e-12, 90e-12, 1500)
SPREADS = (
    Spread("core", "u", "permeability_factor", 0.2),
    Spread("leakage", "u", "leakage_h", 0.0, 0.1e-6),
    Spread("stray", "u", "winding_capacitance_f", 0.0, 1e-12),
    Spread("mica", "u", "input_capacitance_f", 0.05),
)
OTHERS = [Ring(data.ring_material(m), RING.size) for m in ("31", "52", "61")]
SUSPECTS = faults.transformer_suspects(UNUN, SPREADS, wiring=wiring("tapped"), crossed=True, others=OTHERS)
SETUPS = faults.transformer_setups(3200)


def sweep_of(suspect: Hypothesis, setup: Fixture, f: np.ndarray = F) -> Sweep:
    return Sweep(f, impedance_of(seen_of(suspect, setup, f, np.zeros((1, NUISANCES + len(suspect.spreads))))[0]))


def verdict_of(suspect, suspects=SUSPECTS, setups=SETUPS, **more):
    return classify([BenchSweep(setups[0], sweep_of(suspect, setups[0]), **more)], suspects, setups)


# Each takes a second or two: a few at once, all in ./test --deep.
MEANT = [s if i % 4 == 0 else pytest.param(s, marks=pytest.mark.deep) for i, s in enumerate(SUSPECTS)]


@pytest.mark.parametrize("suspect", MEANT, ids=lambda s: f"{s.code} {dict(s.values)}")
def test_each_suspect_as_it_is_meant_is_called_by_its_name(suspect):
    said = verdict_of(suspect)

    # A resistor that is another is a right winding; a small crack lies within the core's own spread.
    meant = "right" if suspect.code == "resistor_off" else suspect.code
    assert said.codes[0] == meant
    assert len(said.codes) == 1 or set(said.codes[1:]) <= {"resistor_off", "right"}
    assert said.likely[0].chance > 0.9


def test_an_antenna_left_connected_is_strange():
    line = 500 / np.tanh(0.1 + 2j * np.pi * F / 299792458.0 * 17)

    assert classify([BenchSweep(SETUPS[0], Sweep(F, line))], SUSPECTS, SETUPS).says == "strange"


def test_halves_wound_against_each_other_show_the_core_alone():
    """Nothing of the resistor is seen: the bucking suspect equals the primary with an open secondary."""
    bucking = next(s for s in SUSPECTS if s.code == "bucking")
    seen = sweep_of(bucking, SETUPS[0]).impedance_ohm
    alone = UNUN.input_impedance(F, np.full(F.shape, 1e9))

    assert seen == pytest.approx(alone, rel=1e-6)


def test_one_turn_is_left_of_an_odd_winding():
    assert [bucking_turns(n) for n in (14, 15, 16)] == [0, 1, 0]


def test_a_reversed_wire_of_three_leaves_one():
    """One against one and one more: what is left is one to one, as if the resistor lay there itself."""
    trifilar = Transformer(replace(RING, permeability_factor=1e6), 9, 27)
    suspects = faults.transformer_suspects(trifilar, SPREADS[:1], wiring=wiring("three-in-hand"))
    reversed_one = next(s for s in suspects if s.code == "reversed")

    assert sweep_of(reversed_one, Fixture("resistor", 450)).impedance_ohm.real == pytest.approx(450, rel=1e-3)


def test_what_hides_in_the_cores_spread_is_said_and_which_sweep_would_tell():
    choke = RingCoil(RING, 9, 2e-12)
    suspects = faults.ring_suspects(choke, (Spread("core", "c", "permeability_factor", 0.2),), others=OTHERS)
    said = verdict_of(suspects[0], suspects, faults.alone_setups())

    assert said.codes[0] == "right"
    assert {h.code for h in said.hidden} == {"turn_more", "turn_less"}
    assert said.next_setup.key == "link"


@pytest.mark.parametrize("code", ["right", "turn_more", "turn_less"])
def test_with_that_sweep_the_turn_is_told(code):
    choke = RingCoil(RING, 9, 2e-12)
    suspects = faults.ring_suspects(choke, (Spread("core", "c", "permeability_factor", 0.2),))
    suspect = next(s for s in suspects if s.code == code)
    taken = [BenchSweep(setup, sweep_of(suspect, setup)) for setup in faults.alone_setups()]

    assert classify(taken, suspects, faults.alone_setups()).codes == (code,)


@pytest.mark.deep
def test_a_poor_calibration_says_less():
    """At 12 dB a turn of sixteen is within what calibration and noise leave; at 60 it is not."""
    more = next(s for s in SUSPECTS if s.code == "turn_more")

    assert verdict_of(more, residual_db=60).codes == ("turn_more",)
    assert len(verdict_of(more, residual_db=12, noise=0.1).codes) > 1


@pytest.mark.parametrize("code", ["right", "turn_more", "turn_less"])
def test_a_turn_of_an_air_coil(code):
    suspects = faults.coil_suspects(
        Inductor(2.2e-6, 200, 14e6, 1.5e-12), 8, (Spread("l", "c", "inductance_h", 0.04),)
    )
    suspect = next(s for s in suspects if s.code == code)

    assert verdict_of(suspect, suspects, [Fixture("alone")]).codes == (code,)


def test_a_link_needs_a_core():
    suspects = faults.coil_suspects(Inductor(2.2e-6), 8, ())

    with pytest.raises(OutOfDomainError, match="link_turns is on something without a core"):
        seen_of(suspects[0], Fixture("link", link_turns=3), F, np.zeros((1, 2)))


def test_refusals():
    with pytest.raises(OutOfDomainError, match="taken is none"):
        classify([], SUSPECTS)
    with pytest.raises(OutOfDomainError, match="of 5 points"):
        classify([BenchSweep(SETUPS[0], sweep_of(SUSPECTS[0], SETUPS[0], F[:5]))], SUSPECTS)


@pytest.mark.deep
def test_how_many_turns_is_one_thing_and_all_that_it_may_be_are_given():
    """Seven turns of three wires for nine: eight on a poor core look much the same, and the core may be cracked."""
    ring = Ring(data.ring_material("43"), data.ring_size("FT140"))
    spreads = (Spread("core", "u", "permeability_factor", 0.2), Spread("leak", "u", "leakage_h", 0.0, 0.027e-6))
    unun = Transformer(ring, 9, 27, 0.036e-6, 3.5e-12)
    suspects = faults.transformer_suspects(unun, spreads, wiring=wiring("three-in-hand"), others=OTHERS)
    setups = faults.transformer_setups(450)
    seven = next(s for s in suspects if s.code == "other_turns" and s.values["turns"] == 7)
    lucky = np.zeros((1, NUISANCES + len(spreads)))
    lucky[0, NUISANCES] = 1.5

    def taken(setup):
        return BenchSweep(setup, Sweep(F, impedance_of(seen_of(seven, setup, F, lucky)[0])))

    said = classify([taken(setups[0])], suspects, setups)
    turns = [w for w in said.likely if w.suspect.code in ("turn_less", "other_turns")]
    assert len(turns) == 1
    assert {7, 8} <= set(turns[0].counts)
    assert said.next_setup is not None
    after = classify([taken(setups[0]), taken(said.next_setup)], suspects, setups)
    assert (after.codes, after.likely[0].counts) == (("other_turns",), (7,))


def test_what_is_strange_states_nothing():
    line = 500 / np.tanh(0.1 + 2j * np.pi * F / 299792458.0 * 17)
    said = classify([BenchSweep(SETUPS[0], Sweep(F, line))], SUSPECTS, SETUPS)

    assert (said.says, said.codes, len(said.likely)) == ("strange", (), 1)


@pytest.mark.parametrize("deviate", [-3.4, 3.4, 5.0])
def test_a_coil_beyond_its_tolerance_is_called_a_coil_of_another_value(deviate):
    coil = Inductor(2.77e-6, 250, 14e6, 1.5e-12)
    suspects = faults.coil_suspects(coil, 8, (Spread("l", "c", "inductance_h", 0.04),))
    other = replace(suspects[0], part=replace(coil, inductance_h=2.77e-6 * (1 + 0.02 * deviate)))
    said = verdict_of(other, suspects, [Fixture("alone")])

    assert said.codes == ("value_off",)
    assert said.likely[0].found["inductance_h"] == pytest.approx(2.77e-6 * (1 + 0.02 * deviate), rel=0.01)


@pytest.mark.parametrize("core", [-0.5, 0.0, 0.5, 1.0])
def test_what_is_planned_is_no_third_opinion_with_a_value_beyond_three_deviations(core):
    """Seven turns for nine of three in hand: fewer turns, or a crack; as planned the core would be far too low."""
    own = Ring(data.ring_material("43"), data.ring_size("FT140"))
    planned = Transformer(own, 9, 27, 0.036e-6, 3.5e-12)
    suspects = faults.transformer_suspects(planned, SPREADS[:3], wiring=wiring("three-in-hand"), others=OTHERS)
    seven = next(s for s in suspects if s.code == "other_turns" and s.values["turns"] == 7)
    setup = faults.transformer_setups(450)[0]
    deviates = np.array([[0.0, 0.5, core, 0.0, 0.0]])
    said = classify(
        [BenchSweep(setup, Sweep(F, impedance_of(seen_of(seven, setup, F, deviates)[0])))], suspects, [setup]
    )

    assert said.says == "apart"
    assert "right" not in said.codes
    assert any(7.0 in likely.counts for likely in said.likely)
    assert sum(likely.share for likely in said.likely) == pytest.approx(1, abs=0.05)
