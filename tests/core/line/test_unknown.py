"""A line known by its two sweeps, and the way to its end."""

import numpy as np
import pytest

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import OPEN_END_F, Cable, Line, NotALineError, characterise, far_end
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.sweep import Sweep

F = np.linspace(1e6, 100e6, 401)
CABLE = Cable("unmarked coax", 51.5, 0.83, 1.1, 0.012)
LEAD = Line(Cable("test lead", 50.0, 0.695, 2.8, 0.005), 1.5)


def two_sweeps(cable, length_m, f=F, spoil=lambda gamma: gamma):
    opened = Line(cable, length_m).input_impedance(f, 1 / (2j * np.pi * f * OPEN_END_F))
    shorted = Line(cable, length_m).input_impedance(f, np.zeros(f.size, dtype=complex))
    return [Sweep(f, impedance_of(spoil(reflection_of(z)))) for z in (opened, shorted)]


def residual_of(rng, f=F):
    """What a bridge that drifted shows through its lead: three terms of 40 dB each, root mean square."""
    directivity, match, tracking = 0.01 * rng.normal(size=(3, 2)).view(complex)[:, 0] / np.sqrt(2)
    turn = np.exp(2 * LEAD.cable.propagation(f)[0] * LEAD.length_m)
    return lambda g: g + directivity * turn + tracking * g + match * g**2 / turn


@pytest.mark.parametrize(
    ("cable", "length_m"),
    [
        (CABLE, 17.6),
        (Cable("75 ohm", 75.0, 0.66, 0.6, 0.005), 3.2),
        (Cable("window", 400.0, 0.91, 0.09, 0.001), 12.0),
    ],
)
def test_two_clean_sweeps_give_the_line_back(cable, length_m):
    """The line's own model, fitted: every value comes back to a tenth of a percent, 0.003 dB."""
    found = characterise(*two_sweeps(cable, length_m), length_m, residual_db=70.0)
    assert found.impedance_ohm.value == pytest.approx(cable.impedance_ohm, rel=1e-3)
    assert found.electrical_m.value == pytest.approx(length_m / cable.velocity_factor, rel=4e-4)
    assert found.matched_loss_db(F) == pytest.approx(Line(cable, length_m).matched_loss_db(F), abs=5e-3)
    back = found.cable("mine")
    assert back.velocity_factor == pytest.approx(cable.velocity_factor, rel=4e-4)
    assert found.length_at(cable.velocity_factor) == pytest.approx(length_m, rel=4e-4)


@pytest.mark.deep
@pytest.mark.trial
def test_200_seeds_with_a_40_db_residual(trials):
    """90th percentile: Z0 within 1 %, l/VF within 0.2 %, loss within 3 % and 0.02 dB at every frequency.

    Lines of 8 to 30 m, 48 to 53 Ω, swept from 1 to 100 MHz. Seeds [4, 0] to [4, 199].
    """
    off = []
    for seed in trials.some(range(200)):
        rng = np.random.default_rng([4, seed])
        cable = Cable(
            "seeded", rng.uniform(48, 53), rng.uniform(0.66, 0.85), rng.uniform(0.6, 1.4), rng.uniform(0.005, 0.02)
        )
        line = Line(cable, rng.uniform(8, 30))
        found = characterise(*two_sweeps(cable, line.length_m, spoil=residual_of(rng)), line.length_m)
        true_db = line.matched_loss_db(F)
        off.append(
            [
                abs(found.impedance_ohm.value / cable.impedance_ohm - 1),
                abs(found.electrical_m.value / (line.length_m / cable.velocity_factor) - 1),
                np.max(np.abs(found.matched_loss_db(F) - true_db) - 0.03 * true_db),
            ]
        )
    impedance, electrical, loss = np.percentile(off, 90, axis=0)
    print(f"\nZ0 {100 * impedance:.2f} %, l/VF {100 * electrical:.3f} %, loss beyond 3 %: {loss:.4f} dB")
    for within in (np.array(off) <= [0.01, 0.002, 0.02]).T:
        assert trials.at_least(int(within.sum()), len(off), 0.9)


def test_sweeps_that_are_no_line_are_refused():
    opened, shorted = two_sweeps(CABLE, 17.6)
    with pytest.raises(NotALineError, match="the two sweeps are alike"):
        characterise(opened, opened)
    with pytest.raises(NotALineError, match="look exchanged"):
        characterise(shorted, opened)
    antenna = Sweep(F, 40 + 2j * (F - 24e6) / 1e5)
    with pytest.raises(NotALineError, match="no line shows these two sweeps"):
        characterise(antenna, opened)
    with pytest.raises(OutOfDomainError, match="points in common"):
        characterise(opened, Sweep(F + 200e6, shorted.impedance_ohm))
    with pytest.raises(OutOfDomainError, match="length_m is -1.0"):
        characterise(opened, shorted, -1.0)
    found = characterise(opened, shorted)
    with pytest.raises(OutOfDomainError, match="measured with a tape"):
        found.cable("mine")
    with pytest.raises(OutOfDomainError, match="its electrical length: measure it again"):
        characterise(opened, shorted, 25.0).cable("mine")


@pytest.mark.parametrize("length_m", [4.2, 17.6, 43.0])
@pytest.mark.parametrize("kind", ["open", "short"])
def test_the_distance_to_a_break_within_half_the_resolution(length_m, kind):
    opened, shorted = two_sweeps(CABLE, length_m)
    found = far_end(opened if kind == "open" else shorted, 0.83)
    # c·VF/(2·span) by hand: 2.998e8·0.83/(2·99e6) = 1.257 m; over the step of 0.2475 MHz 502.7 m.
    assert found.resolution_m == pytest.approx(1.2567, rel=1e-3)
    assert found.range_m == pytest.approx(502.7, rel=1e-3)
    assert abs(found.distance_m - length_m) < found.resolution_m / 2
    assert found.kind == kind


@pytest.mark.parametrize(("ohm", "vf"), [(450.0, 0.91), (600.0, 0.97)])
@pytest.mark.parametrize("kind", ["open", "short"])
def test_the_end_of_an_open_line_is_found_behind_its_near_end(ohm, vf, kind):
    """20 m: against 50 Ω the near end is the strongest reflection."""
    line = Line(Cable("open line", ohm, vf, 0.05, 0.0005), 20.0)
    load = np.full(F.size, 1e9 if kind == "open" else 1e-3, dtype=complex)
    found = far_end(Sweep(F, line.input_impedance(F, load)), vf, ohm)

    assert found.distance_m == pytest.approx(20.0, rel=0.01)
    assert found.kind == kind


@pytest.mark.parametrize(("load", "kind"), [(200.0, "higher"), (15.0, "lower")])
def test_a_load_is_no_open_end(load, kind):
    sweep = Sweep(F, Line(CABLE, 17.6).input_impedance(F, np.full(F.size, load, dtype=complex)))
    assert far_end(sweep, 0.83).kind == kind


def test_a_matched_end_and_bad_input():
    matched = Sweep(F, Line(Cable("50", 50.0, 0.83, 1.1, 0.012), 20.0).input_impedance(F, np.full(F.size, 50 + 0j)))
    assert far_end(matched, 0.83).kind == "none"
    with pytest.raises(OutOfDomainError, match="velocity_factor is 1.2"):
        far_end(matched, 1.2)
    with pytest.raises(OutOfDomainError, match="of 16 points or more"):
        far_end(Sweep(F[:5], matched.impedance_ohm[:5]), 0.83)


def test_the_ceiling_of_what_a_line_can_show():
    """Handbook: return loss is at least twice the matched loss; 1 dB 8.72, 3 dB 3.01, 20 dB 1.0202."""
    for loss_db, swr in ((1.0, 8.724), (3.0, 3.010), (20.0, 1.0202)):
        line = Line(Cable("lossy", 50.0, 0.66, loss_db * 10 / np.sqrt(10), 0.0), 10.0)
        assert line.highest_swr(10e6) == pytest.approx(swr, rel=1e-3)
    # Against 50 Ω a 75 Ω line shows more than on itself, and no load passes it.
    # (The rule takes Z0 as real: with the skin effect's reactance a reactive end shows up to 2 % more here.)
    line = Line(Cable("75", 75.0, 0.66, 1.0, 0.01), 60.0)
    f = np.linspace(10e6, 30e6, 21)
    loads = 10.0 ** np.linspace(-3, 5, 33)
    shown = np.max(
        [
            np.abs(reflection_of(line.input_impedance(f, np.full(21, z))))
            for r in loads
            for z in (r, 1j * r, -1j * r)
        ],
        axis=0,
    )
    highest = line.highest_swr(f, 50.0)
    assert (highest >= (1 + shown) / (1 - shown) * 0.98).all()
    assert (highest >= 1.5 - 1e-9).all()
