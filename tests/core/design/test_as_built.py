"""A design as it was built, by a sweep of it: values, slips, what cannot be told; truth made with other errors."""

import math
from dataclasses import replace

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.analyser.bench import Site
from yielding_coil.analyser.hanging import HungThing
from yielding_coil.analyser.practice import antenna_text
from yielding_coil.analyser.windings import ring_factor
from yielding_coil.core.antenna import begun
from yielding_coil.core.design import CoaxCapacitor, Design, Feedline, as_built, slips_of
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Line
from yielding_coil.core.modelled_antenna import modelled
from yielding_coil.core.parts import FixedLoad, Resistor
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Element, System
from yielding_coil.core.target import Target
from yielding_coil.core.winding import AirCoil
from yielding_coil.core.wire import Insulation, Load, Source, Stock, Structure, Wire
from yielding_coil.documents.usual import UNUNS

BAND = Target("17 m", 18.068e6, 18.168e6, 2.0)
CENTER = BAND.center_hz
# Five eighths of a wave on radials of 8 Ω; near the 94 − j463 Ω of practice.
WIRE = Structure([Wire((0, 0, 0), (0, 0, 10.05), 1e-3)], Source(0, 0.0), [Load(0, 0.0, Resistor(8.0))], "perfect")
WIDE = np.linspace(16.6e6, 19.6e6, 241)
CAPACITOR = CoaxCapacitor(key="capacitor", place="shunt", capacitance_f=7.0e-12, cable=data.cables()["pe-5"])
COIL = AirCoil(key="coil", place="series", inductance_h=3.0e-6, former_m=0.032, wire=data.winding_wire("cu-1.6"))
LINE = Feedline(key="line", cable=data.cables()["foam-6"], length_m=11.0)
# Through a lead of a metre and a half turn the errors of a bridge.
LEAD = Line(data.cable("pe-5"), 1.5)


@pytest.fixture(scope="module")
def antenna():
    return Sweep(WIDE, WIRE.impedance_at(WIDE))


def misreading(rng, f, rms=0.01):
    """Three terms of a bridge that drifted, seen through its lead."""
    directivity, match, tracking = rms / math.sqrt(3) * rng.normal(size=(3, 2)).view(complex)[:, 0] / math.sqrt(2)
    turn = np.exp(2 * LEAD.cable.propagation(f)[0] * LEAD.length_m)
    return lambda g: g + directivity * turn + tracking * g + match * g**2 / turn


def built(antenna, f, coil=1.0, capacitor=1.0, elements=(CAPACITOR, COIL), line=None, end_f=0.0):
    """Γ of a build with parts so many times what they were meant to be."""
    parts = []
    for element in elements:
        part = element.part(CENTER)
        if element.key == "coil":
            part = replace(part, inductance_h=part.inductance_h * coil)
        else:
            part = replace(part, capacity_factor=capacitor, end_f=part.end_f + end_f)
        parts.append(Element(element.key, element.place, part))
    if line is not None:
        parts.append(Element("line", "through", line.part(CENTER)))
    return reflection_of(System(antenna, parts).impedance(f))


def swept(gamma, f, rng=None, noise=1e-3):
    if rng is not None:
        gamma = misreading(rng, f)(gamma) + noise / math.sqrt(2) * rng.normal(size=(f.size, 2)).view(complex)[:, 0]
    return Sweep(f, impedance_of(gamma))


def reads(element, part):
    """What an analyser reads of a part in the middle of the band."""
    f = np.array([CENTER])
    if element == "coil":
        return float(part.impedance_ohm(f).imag[0] / (2 * math.pi * CENTER))
    return float(part.admittance_s(f).imag[0] / (2 * math.pi * CENTER))


def value(found, element, field="value"):
    return next(v for v in found.values if (v.element, v.field) == (element, field))


F = np.linspace(17.2e6, 19.0e6, 101)


@pytest.fixture(scope="module")
def design(antenna):
    return Design(antenna=antenna, targets=(BAND,), elements=(CAPACITOR, COIL))


def test_a_coil_a_turn_short_is_named_and_what_it_takes(design, antenna):
    """A turn of some ten: its reading falls from 3.00 to about 2.6 µH (the coil's own mark)."""
    slip = next(s for s in slips_of(COIL, CENTER) if s.by == -1)
    found = as_built(design, swept(built(antenna, F, elements=(CAPACITOR, slip.element)), F))
    assert found.state == "slipped"
    assert (found.odds[0].slip.key, found.odds[0].slip.by) == ("coil", -1)
    assert value(found, "coil").found == pytest.approx(slip.element.inductance_h, rel=0.01)
    assert found.odds_of("coil", "turns", -1) > 0.9
    assert found.change.key == "coil"
    assert found.change.value_to > found.change.value_from
    assert found.change.worst_then < 1.2 < found.change.worst_now
    assert found.change.holds_now < 0.1 < 0.9 < found.change.holds_then


@pytest.mark.deep
def test_a_claim_of_a_turn_is_contradicted_where_the_capacitor_is_over(design, antenna):
    """0.6 pF over, of 7, both sweeps good to a fifth of a percent: not a turn short."""
    well = replace(design, reading_spread=0.004)
    found = as_built(well, swept(built(antenna, F, capacitor=1 + 0.6 / 7), F))
    assert found.odds_of("coil", "turns", -1) < 0.01
    capacitor = value(found, "capacitor")
    assert capacitor.low < 7.6e-12 < capacitor.high
    assert (found.odds[0].slip.key, found.odds[0].slip.by) == ("capacitor", 0.005)
    assert (found.state == "slipped") == (found.odds[0].odds >= 0.9)
    assert found.change.worst_then < found.change.worst_now


def test_as_planned_it_says_so_and_the_next_prediction_knows_its_coil(design, antenna):
    found = as_built(design, swept(built(antenna, F), F))
    assert found.odds[0].slip is None
    revised = next(e for e in found.revised.elements if e.key == "coil")
    assert revised.inductance_h == pytest.approx(3.0e-6, rel=0.01)
    assert revised.spread < COIL.spread
    assert found.low.shape == found.read.shape
    assert (np.abs(found.read) <= found.high).all()


@pytest.mark.deep
def test_a_part_that_the_antennas_own_doubt_hides_is_said(design, antenna):
    """A capacitor across the feed turns Γ by less than a misread antenna does: known no better than before."""
    found = as_built(design, swept(built(antenna, F, capacitor=0.97), F))
    assert found.untold == ("capacitor",)
    assert found.measure is not None
    well = replace(design, reading_spread=0.002)
    assert as_built(well, swept(built(antenna, F, capacitor=0.97), F)).untold == ()


@pytest.mark.deep
def test_two_that_change_the_curve_alike_are_named_together(antenna):
    """Two capacitors side by side are one."""
    halves = tuple(replace(CAPACITOR, key=key, capacitance_f=3.5e-12, spread=0.3) for key in ("one", "other"))
    twice = Design(antenna=antenna, targets=(BAND,), elements=(*halves, COIL), reading_spread=0.002)
    seen = twice.system().impedance(F)
    found = as_built(twice, Sweep(F, seen))
    assert set(found.alike) == {("one", "other"), ("other", "one")}


def test_beside_its_band_nothing_is_said_of_what_a_change_would_buy(design, antenna):
    beside = np.linspace(17.2e6, 18.0e6, 61)
    found = as_built(design, swept(built(antenna, beside, coil=0.8), beside))
    assert (found.holds, found.change) == (None, None)


def test_a_sweep_of_another_antenna_is_like_nothing_expected(design, antenna):
    found = as_built(design, swept(np.full(F.shape, 0.2 + 0.1j), F))
    assert found.state == "no_match"
    assert found.values == ()
    assert not found.other_plane


@pytest.mark.deep
def test_a_sweep_at_the_radios_end_called_the_box_is_seen_through(antenna):
    whole = Design(antenna=antenna, targets=(BAND,), elements=(CAPACITOR, COIL, LINE))
    sweep = swept(built(antenna, F, coil=0.9, line=LINE), F)
    found = as_built(whole, sweep, "box")
    assert found.state == "no_match"
    below = swept(built(antenna, F, line=LINE), F)
    assert as_built(whole, below, "box").other_plane
    assert as_built(whole, below, "radio").state != "no_match"


@pytest.mark.parametrize(
    ("spoil", "said"),
    [
        (lambda d, a: (d, swept(built(a, F[::25]), F[::25])), "5 points where the antenna is known; it must be 11"),
        (lambda d, a: (d, swept(built(a, F) * 1.2 + 0.3, F)), "R below zero at"),
        (lambda d, a: (replace(d, elements=()), swept(built(a, F), F)), "without a part made by hand"),
        (
            lambda d, a: (d, Sweep(F + 20e6, np.full(F.shape, 50 + 0j))),
            "0 points where the antenna is known",
        ),
    ],
)
def test_what_it_cannot_be_held_against_is_refused(design, antenna, spoil, said):
    spoiled, sweep = spoil(design, antenna)
    with pytest.raises(OutOfDomainError, match=said):
        as_built(spoiled, sweep)


@pytest.mark.deep
def test_a_resistor_on_the_bench_in_place_of_the_antenna_will_do():
    on_bench = Design(antenna=FixedLoad(94 - 463j), targets=(BAND,), elements=(CAPACITOR, COIL))
    found = as_built(on_bench, swept(built(FixedLoad(94 - 463j), F, coil=1.02), F))
    coil = value(found, "coil")
    assert coil.low < 1.02 * 3.0e-6 < coil.high


SEEDS = range(20261129, 20262129)


@pytest.mark.deep
@pytest.mark.trial
def test_intervals_hold_and_slips_are_upheld_only_where_they_are(antenna, trials):
    """A thousand five-eighths: coil and capacitor ± 4 %, one in four with a slip; both sweeps misread by 1 %."""
    seeds = trials.some(SEEDS)
    inside, claims = {"coil": 0, "capacitor": 0}, {"true": [0, 0], "false": [0, 0]}
    said = {"right": 0, "wrong": 0, "cannot tell": 0, "no match": 0}
    for seed in seeds:
        rng = np.random.default_rng(seed)
        known = swept(reflection_of(antenna.impedance_ohm), WIDE, rng)
        design = Design(antenna=known, targets=(BAND,), elements=(CAPACITOR, COIL))
        slips = [s for e in design.elements for s in slips_of(e, CENTER)]
        slip = slips[rng.integers(len(slips))] if rng.uniform() < 0.25 else None
        made = tuple(slip.element if slip and e.key == slip.key else e for e in design.elements)
        coil, capacitor = 1 + 0.02 * rng.normal(size=2)
        end = 0.1e-12 * rng.normal()
        gamma = built(antenna, F, coil, capacitor, made, end_f=end)
        found = as_built(design, swept(gamma, F, rng))
        pipe, winding = made[0].part(CENTER), made[1].part(CENTER)
        truth = {
            "coil": reads("coil", replace(winding, inductance_h=winding.inductance_h * coil)),
            "capacitor": reads("capacitor", replace(pipe, capacity_factor=capacitor, end_f=pipe.end_f + end)),
        }
        if found.state == "no_match":
            said["no match"] += 1
            continue
        for name, true in truth.items():
            v = value(found, name)
            inside[name] += v.low <= true <= v.high
        kind = "true" if slip and (slip.key, slip.by) == ("coil", -1) else "false"
        claims[kind][0] += 1
        claims[kind][1] += found.odds_of("coil", "turns", -1) > 0.9
        top = found.odds[0].slip
        if found.state in ("cannot_tell", "nothing_shows"):
            said["cannot tell"] += 1
        else:
            same = (top is None) == (slip is None) and (top is None or (top.key, top.by) == (slip.key, slip.by))
            said["right" if same else "wrong"] += 1
    trials.note("as built, five eighths with its match", **{k.replace(" ", "_"): n for k, n in said.items()})
    trials.note(
        "as built, “a turn short”",
        true=claims["true"][0],
        upheld=claims["true"][1],
        false=claims["false"][0],
        wrongly=claims["false"][1],
    )
    held = [
        trials.holds(f"as built, {name}", n, len(seeds) - said["no match"], cannot_tell=said["cannot tell"])
        for name, n in inside.items()
    ]
    assert all(held)
    assert trials.at_most(claims["false"][1], claims["false"][0], 0.02)
    assert trials.at_least(claims["true"][1], claims["true"][0], 0.8)
    # What is said with nine in ten may be wrong in one of ten; slips come more often here than the fit expects.
    assert trials.at_most(said["wrong"], said["wrong"] + said["right"], 0.14)
    assert trials.at_most(said["no match"], len(seeds), 0.01)


@pytest.mark.deep
@pytest.mark.trial
def test_an_unun_through_its_wire(trials):
    """A thousand sites: core off its table, wire hung otherwise, one unun in four a turn off, misread by 0.5 %."""
    band = Target("30 m", 10.1e6, 10.15e6, 2.0)
    hung = begun("end-fed", band, Stock(0.001, "copper", Insulation(0.0016, 2.5)))
    unun = UNUNS[2450.0].to_core()
    design = Design(antenna=modelled(hung, 8.6e6, 11.8e6), targets=(band,), elements=(unun,))
    f = np.linspace(9e6, 11.4e6, 81)
    inside, said = (
        {"permeability_factor": 0, "length": 0},
        {"right": 0, "wrong": 0, "cannot_tell": 0, "no_match": 0},
    )
    for seed in trials.some(SEEDS):
        rng = np.random.default_rng([40, seed])
        slips = slips_of(unun, band.center_hz)
        slip = slips[rng.integers(len(slips))] if rng.uniform() < 0.25 else None
        made = unun if slip is None else slip.element
        seen = reflection_of(HungThing(antenna_text(hung, "end-fed", unun=made), seed).impedance_ohm(f))
        gamma = misreading(rng, f, 0.005)(seen)
        gamma = gamma + 1e-3 / math.sqrt(2) * rng.normal(size=(f.size, 2)).view(complex)[:, 0]
        found = as_built(design, Sweep(f, impedance_of(gamma)), residual=0.005)
        if found.state == "no_match":
            said["no_match"] += 1
            continue
        truth = {
            ("unun", "permeability_factor"): ring_factor(seed, "43", "FT240"),
            ("antenna", "length"): (Site.of(seed).stretch - 1) / 0.003,
        }
        for (element, field), true in truth.items():
            v = value(found, element, field)
            inside[field] += v.low <= true <= v.high
        top = found.odds[0].slip
        same = (top is None) == (slip is None) and (top is None or (top.what, top.by) == (slip.what, slip.by))
        sure = found.state in ("as_planned", "slipped")
        said["cannot_tell" if not sure else "right" if same else "wrong"] += 1
    trials.note("as built, an unun through its wire", **said)
    seen_of_all = sum(said.values()) - said["no_match"]
    # Rings there stray less far out than a normal does: at least nine in ten.
    held = [trials.holds(f"as built, unun: {name}", n, seen_of_all, bound=True) for name, n in inside.items()]
    assert all(held)
    assert trials.at_most(said["no_match"], sum(said.values()), 0.05)
    assert trials.at_most(said["wrong"], said["wrong"] + said["right"], 0.14)
