"""Kinds of antenna from a few plain numbers: they are where the trade says, and stray as it says."""

import math
from dataclasses import replace

import numpy as np
import pytest

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire import Ground, Insulation, Structure
from yielding_coil.core.wire.kinds import (
    KINDS,
    CoilIsolatedVertical,
    Dipole,
    EndFed,
    EndFedOnShield,
    InvertedV,
    LinkedDipole,
    LoadedDipole,
    LoadedVertical,
    Loop,
    RaisedVertical,
    SlopingDipole,
    Stock,
    Vertical,
    radials_ohm,
)
from yielding_coil.core.wire.kinds.loading import line_estimate_h

F = 24.94e6
# Near resonance by their first numbers; the others are of awkward length, or fed at the end of half a wave.
AWKWARD = ("five-eighths", "five-eighths-dipole", "end-fed", "end-fed-on-shield", "end-fed-beside", "any-length")
RESONANT = [key for key in KINDS if key not in AWKWARD]


def first_zero(hung, low, high):
    """Where X first crosses zero upwards, and R there."""
    f = np.linspace(low, high, 121)
    z = hung.structure().impedance_at(f)
    at = np.flatnonzero((z.imag[:-1] < 0) & (z.imag[1:] >= 0))[0]
    share = -z.imag[at] / (z.imag[at + 1] - z.imag[at])
    return f[at] + share * (f[1] - f[0]), float(z.real[at])


def test_every_kind_says_what_it_is():
    assert {"dipole", "inverted-v", "vertical", "raised-vertical", "five-eighths", "end-fed", "triangle"} <= set(
        KINDS
    )
    assert len({kind.name for kind in KINDS.values()}) == len(KINDS)
    for key, kind in KINDS.items():
        assert kind.key == key
        assert all((kind.name, kind.purpose, kind.fed_by, kind.not_modelled))
        assert 10 <= kind.feed_ohm <= 5000
        assert isinstance(kind.start(F).structure(), Structure)


@pytest.mark.deep
@pytest.mark.parametrize("key", RESONANT)
def test_first_numbers_come_near_the_band(key):
    """Found dips lie from 6 % below to 3 % above what rules promise (practice); for a coil by its estimate 5 %."""
    at, ohm = first_zero(KINDS[key].start(F), 0.9 * F, 1.1 * F)
    assert 0.94 < at / F < 1.06
    # A loop with another one inside it shows more than a loop alone (computed).
    assert 15 < ohm < (200 if key == "nested-loops" else 150)


@pytest.mark.deep
def test_an_end_fed_wire_has_a_few_kilohms_and_shifted_harmonics():
    """2.45 to 5 kΩ by school; dips on harmonics come out high (practice), since the end effect counts once."""
    for key in ("end-fed", "end-fed-on-shield"):
        hung = KINDS[key].start(10.1e6)
        crest = {}
        for n in (1, 2, 3):
            f = np.linspace(0.93, 1.1, 69) * n * 10.1e6
            z = hung.structure().impedance_at(f)
            crest[n] = f[z.real.argmax()], float(z.real.max())
        assert 2000 < crest[1][1] < 5000
        assert crest[2][0] > 2 * crest[1][0]
        assert crest[3][0] > 3 * crest[1][0]
        assert crest[1][1] > crest[2][1] > crest[3][1]


def test_five_eighths_wants_a_coil():
    """94 − j463 Ω without radials' loss (computed); 5 to 6 Ω of loss of 32 radials beside it."""
    z = complex(KINDS["five-eighths"].start(18.1e6).structure().impedance_at(18.1e6))
    assert z == pytest.approx(99.5 - 463j, rel=0.15)


@pytest.mark.deep
def test_legs_that_hang_lower_the_resistance():
    level = first_zero(InvertedV(2.86, 9.0, 179.9), 23e6, 28e6)[1]
    bent = first_zero(InvertedV(2.86, 9.0, 90.0), 23e6, 28e6)[1]
    assert bent < 0.8 * level


def test_a_droop_brings_radials_to_50_ohm():
    """Practice: about 45°; over real ground as in free space, high up."""
    ohm = [
        complex(RaisedVertical(2.9, 2.9, 8.0, 4, droop).structure().impedance_at(F)).real
        for droop in (0.0, 30.0, 45.0)
    ]
    assert ohm == sorted(ohm)
    assert 15 < ohm[0] < 30
    assert 42 < ohm[2] < 60


def test_two_raised_radials_will_do():
    """Practice: two tuned ones against many on the ground; within some ohms of four."""
    two, four = (complex(RaisedVertical(2.9, 2.9, 6.0, n, 30.0).structure().impedance_at(F)).real for n in (2, 4))
    assert two == pytest.approx(four, rel=0.2)


@pytest.mark.deep
def test_an_open_link_leaves_the_rest_out():
    alone = first_zero(Dipole(2.8, 6.0), 23e6, 28e6)[0]
    linked = first_zero(LinkedDipole(2.8, 2.0, 6.0), 23e6, 28e6)[0]
    assert 0.95 < linked / alone < 1.0


def test_a_coil_further_up_radiates_more():
    """At the base it needs less inductance and wastes more (practice), at the same resonance."""
    half = 0.7
    base = line_estimate_h(F, 0.0, 2 * half, 0.001, 1.5e-12)
    middle = line_estimate_h(F, half, half, 0.001, 1.5e-12)
    assert middle > base
    low, high = (LoadedVertical(2 * half, h, at) for h, at in ((base, 0.0), (middle, 0.5)))
    sent = [float(one.structure().solve(F).radiated_w) for one in (low, high)]
    assert sent[1] > 1.1 * sent[0]


def test_the_line_estimate():
    """39.1 µH for 5.4 m, coil, 1.28 m of 1.2 mm wire at 7.1 MHz (computed); 2 pF across it take some of that."""
    assert line_estimate_h(7.1e6, 5.4, 1.28, 0.0006) == pytest.approx(39.1e-6, rel=2e-3)
    assert line_estimate_h(7.1e6, 5.4, 1.28, 0.0006, 2e-12) < 35e-6
    with pytest.raises(OutOfDomainError, match="without a coil"):
        line_estimate_h(7.1e6, 5.4, 5.4, 0.0006)


def test_radials_on_the_ground():
    """The table's own rows, and between them (after Brown, Lewis & Epstein, from memory)."""
    assert radials_ohm(4) == pytest.approx((20, 29))
    assert radials_ohm(64) == pytest.approx((2, 3))
    least, most = radials_ohm(12)
    assert 8 < least < 12
    assert 10 < most < 18
    bare, many = (complex(Vertical(2.9, n).structure().impedance_at(F)).real for n in (4, 64))
    assert bare - many == pytest.approx(22, abs=0.1)


@pytest.mark.parametrize(
    ("hung", "names"),
    [
        (Dipole(2.86, 7.0), {"length", "height", "ground"}),
        (Dipole(2.86, 7.0, ground="none"), {"length", "height"}),
        (Dipole(2.86, 7.0, Stock(insulation=Insulation(0.002, 2.5))), {"length", "height", "covering", "ground"}),
        (Vertical(2.9), {"length", "radials", "ground"}),
        (RaisedVertical(2.9, 2.9, 5.0), {"length", "height", "ground"}),
    ],
)
def test_what_strays(hung, names):
    assert {stray.name for stray in hung.strays()} == names


def test_how_far_it_strays():
    stock = Stock(insulation=Insulation(0.002, 2.5))
    hung = EndFed(5.7, 0.6, 6.0, 7.0, stock)
    by_name = {stray.name: stray for stray in hung.strays()}

    longer = hung.strayed(by_name["length"], 2.0)
    assert longer.wire_m == pytest.approx(5.7 * 1.006)
    assert longer.counterpoise_m == pytest.approx(0.6 * 1.006)
    higher = hung.strayed(by_name["height"], 2.0)
    assert (higher.feed_m, higher.far_m) == (pytest.approx(6.5), pytest.approx(7.55))
    wetter = hung.strayed(by_name["ground"], 2.0)
    assert wetter.ground.conductivity_s_per_m == pytest.approx(0.015)
    assert wetter.ground.relative_permittivity == pytest.approx(19.5)
    thicker = hung.strayed(by_name["covering"], 2.0).stock.insulation
    # Three tenths more of what it adds.
    assert math.log(thicker.outer_radius_m / 0.001) == pytest.approx(1.3 * math.log(2))
    assert replace(hung) == hung


@pytest.mark.parametrize(
    ("build", "why"),
    [
        (lambda: SlopingDipole(2.8, 9.0, 3.0), "less above the low end"),
        (lambda: InvertedV(2.8, 9.0, 10.0), "30 to 180 between the legs"),
        (lambda: InvertedV(5.0, 3.0, 60.0), "under the ground"),
        (lambda: LoadedDipole(2.0, 6.0, 1e-6, 0.0), "0.05 to 0.95 of a leg"),
        (lambda: RaisedVertical(2.9, 2.9, 1.0), "higher, or with less droop"),
        (lambda: RaisedVertical(2.9, 2.9, 6.0, 1), "2 to 8 raised ones"),
        (lambda: RaisedVertical(2.9, 2.9, 6.0, 4, 90.0), "0 \\(level\\) to 85"),
        (lambda: Vertical(2.9, 2), "4 to 64 on the ground"),
        (lambda: LoadedVertical(2.0, 1e-6, 1.0), "0.95 of the height"),
        (lambda: EndFed(5.0, 0.5, 2.0, 9.0), "less than the wire's 5 m"),
        (lambda: EndFedOnShield(5.0, 6.0, 6.0, 6.0), "less than the feed is high"),
        (lambda: Loop(12.0, 2.0, 5), "3 or 4"),
        (lambda: KINDS["dipole"].start(0.0), "above zero"),
    ],
)
def test_numbers_that_make_no_antenna_are_refused(build, why):
    with pytest.raises(OutOfDomainError, match=why):
        build().structure()


def test_two_bands_from_one_coil():
    """About 34 µH for 5.4 and 1.28 m: dips on 40 m and 20 m within 6.8 m (practice; found with 2 pF across it)."""
    hung = CoilIsolatedVertical(5.4, 1.28, 34.2e-6, own_f=2e-12, stock=Stock(0.0006))
    assert first_zero(hung, 6.5e6, 7.8e6)[0] == pytest.approx(7.1e6, rel=0.01)
    assert first_zero(hung, 13e6, 15e6)[0] == pytest.approx(14.2e6, rel=0.01)


def test_real_ground_is_what_it_is_told_to_be():
    dry = complex(Dipole(2.86, 3.0, ground=Ground(0.001, 5)).structure().impedance_at(F))
    wet = complex(Dipole(2.86, 3.0, ground=Ground(0.03, 20)).structure().impedance_at(F))
    assert abs(dry - wet) > 2
