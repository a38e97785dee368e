"""Planes moved along a line: the demo's own pair of sweeps, exact round trips, and an honest fan."""

from pathlib import Path

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, Line, LineUncertainty, shift_reference_plane, worth_measuring
from yielding_coil.core.sweep import ReflectionUncertainty, Sweep
from yielding_coil.formats import touchstone

DEMO = Path(__file__).parents[3] / "yielding_coil" / "demo"
# The README of the demo data states its line.
TRUE = Cable("allotment coax", 50.0, 0.84, 1.05, 0.011)
EXACT = LineUncertainty(0.0, 0.0, 0.0, 0.0)


def demo(name):
    return touchstone.read((DEMO / f"allotment-{name}.s1p").read_bytes())


def test_the_shack_sweep_moved_through_its_line_is_the_feedpoint_sweep():
    """Made-up sweeps with their line stated: within 1.5 % of |Z| at every frequency."""
    shack, feedpoint = demo("shack"), demo("feedpoint")
    found = shift_reference_plane(shack, Line(TRUE, 17.6), "antenna", EXACT)
    true = feedpoint.impedance_at(found.frequency_hz)
    assert (np.abs(found.impedance_ohm - true) / np.abs(true)).max() < 0.015
    assert found.known.all()
    assert worth_measuring(found.shares) is None


def test_there_and_back_is_where_one_started():
    wire = demo("feedpoint")
    down = shift_reference_plane(wire, Line(TRUE, 17.6), "radio", EXACT)
    up = shift_reference_plane(Sweep(down.frequency_hz, down.impedance_ohm), Line(TRUE, 17.6), "antenna", EXACT)
    assert up.impedance_ohm == pytest.approx(wire.impedance_ohm, rel=1e-9)


def test_an_exact_line_has_no_fan_and_a_doubtful_reading_has_one():
    shack = demo("shack")
    found = shift_reference_plane(shack, Line(TRUE, 17.6), "antenna", EXACT)
    assert found.low_ohm == pytest.approx(found.high_ohm)
    reading = ReflectionUncertainty.circular(np.full(shack.frequency_hz.size, 0.01))
    doubted = shift_reference_plane(shack, Line(TRUE, 17.6), "antenna", EXACT, reading)
    assert (doubted.high_ohm.real > doubted.low_ohm.real).all()
    assert worth_measuring(doubted.shares) == "reading"


def test_a_nominal_line_of_many_waves_hides_the_far_end_and_names_its_velocity():
    """At 2 % of velocity (two sigma), 100 m at 21 MHz is 8.3 waves: Γ turns by 60° for one sigma (2βl·0.01)."""
    nominal = data.cable("foam-6")
    f = np.linspace(21.0e6, 21.45e6, 11)
    far = Sweep(f, np.full(11, 94 - 463j))
    seen = Sweep(f, Line(nominal, 100.0).input_impedance(f, far.impedance_ohm))
    found = shift_reference_plane(seen, Line(nominal, 100.0), "antenna")
    assert not found.known.any()
    assert worth_measuring(found.shares) == "velocity"
    near = shift_reference_plane(far, Line(nominal, 1.0), "radio")
    assert near.known.all()


def inside(found, true_ohm):
    """Whether R and X lie between the fan's edges."""
    return np.array(
        [
            (found.low_ohm.real <= true_ohm.real) & (true_ohm.real <= found.high_ohm.real),
            (found.low_ohm.imag <= true_ohm.imag) & (true_ohm.imag <= found.high_ohm.imag),
        ]
    )


@pytest.mark.deep
@pytest.mark.trial
def test_the_fan_holds_the_truth_for_2000_perturbed_lines(trials):
    """2,000 lines that stray as stated, seed 20261124; R and X at five frequencies of the band, by themselves.

    The shack sweep is given and the line is one of these: the feedpoint that it makes lies in the nominal
    line's fan in 88 to 92 % (three binomial standard errors). Seen the other way, with the wire given and a shack
    sweep for each line, the fan holds it at least as often, and oftener: this wire is near its anti-resonance,
    where R and X turn back, so lines to either side give the same values.
    """
    wire = demo("feedpoint")
    f = np.linspace(21.0e6, 21.45e6, 5)
    true_ohm = wire.impedance_at(f)
    doubt = LineUncertainty()
    rng = np.random.default_rng(20261124)
    shack = Sweep(f, demo("shack").impedance_at(f))
    nominal = shift_reference_plane(shack, Line(TRUE, 17.6), "antenna", doubt)
    given_sweep, given_wire = np.zeros((2, 5)), np.zeros((2, 5))
    lines = trials.some(rng.normal(size=(2000, 4)))
    many = len(lines)
    for velocity, loss, impedance, length in lines:
        strayed = Cable(
            "strayed",
            50.0 * (1 + impedance * doubt.impedance / 2),
            0.84 * (1 + velocity * doubt.velocity / 2),
            1.05 * (1 + loss * doubt.loss / 2),
            0.011 * (1 + loss * doubt.loss / 2),
        )
        line = Line(strayed, 17.6 * (1 + length * doubt.length / 2))
        given_sweep += inside(nominal, line.load_impedance(f, shack.impedance_ohm))
        shown = Sweep(f, line.input_impedance(f, true_ohm))
        given_wire += inside(shift_reference_plane(shown, Line(TRUE, 17.6), "antenna", doubt), true_ohm)
    shares = 100 * np.array([given_sweep, given_wire]) / many
    print(f"\nsweep given, wire given: R, X inside the fan {shares.round(1).tolist()} %")
    assert all(trials.at_least(count, many, 0.88) for count in given_sweep.ravel())
    assert all(trials.at_most(count, many, 0.92) for count in given_sweep.ravel())
    assert all(trials.at_least(count, many, 0.88) for count in given_wire.ravel())


def test_a_line_without_length_is_refused():
    with pytest.raises(OutOfDomainError, match="without a line there is nothing to move through"):
        shift_reference_plane(demo("shack"), Line(TRUE, 0.0), "antenna")
