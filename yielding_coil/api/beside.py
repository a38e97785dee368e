"""Reports of what is wound beside the cascade: chokes on the coax, traps in the wire."""

import math

import numpy as np

from yielding_coil import data
from yielding_coil.api.holding import rng_of
from yielding_coil.api.laid import (
    COAX_OHM,
    FAN_BUILDS,
    POINTS,
    boxes,
    curie,
    grid_of,
    material_findings,
    pair_findings,
    ring_cuts,
    ring_fit,
    seen,
)
from yielding_coil.api.making import TAIL_M, Finding
from yielding_coil.api.numbers import number, numbers
from yielding_coil.api.pictures import CoilPicture, Picture, picture_of
from yielding_coil.api.warmth import HeatOut, coil_body, ring_body, rises_of
from yielding_coil.api.wound import (
    BenchOut,
    BorneOut,
    ChokeOut,
    CurveOut,
    CutOut,
    FitOut,
    MadeOf,
    RatedOut,
    SchoolOut,
    TrapOut,
    TurnsOut,
    WindingAsked,
    WindingOut,
)
from yielding_coil.core.arrays import Real
from yielding_coil.core.errors import NotMatchableError
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.reflection import reflection_of, return_loss_db, swr_of_impedance
from yielding_coil.core.solenoid import Solenoid
from yielding_coil.core.system import Element, System
from yielding_coil.core.target import Target
from yielding_coil.core.tolerance import fan
from yielding_coil.core.trap import Trap, TrappedLeg, housed_hz, leg_for
from yielding_coil.core.winding import choke as chokes
from yielding_coil.core.winding import heat
from yielding_coil.documents.choke_and_trap import SHIELD, Choke, WireTrap

# A link turn: its own inductance, and how closely it couples (from memory: a loose turn beside the coil).
LINK_H, LINK_COUPLING = 0.12e-6, 0.12
# The second school tunes a trap so far below its band (common practice: 2 to 5 % below its lower edge).
BELOW = 0.97
# Round a trap's resonance, what is drawn of it.
AROUND = 0.12


def _turns(turns: float, crosses_after: int | None = None) -> TurnsOut:
    return TurnsOut(
        passes=turns,
        returns=math.floor(turns) - (1 if crosses_after is not None else 0),
        primary=None,
        secondary=None,
        turns_ratio=None,
        impedance_ratio=None,
        in_hand=1,
        tap_after=None,
        crosses_after=crosses_after,
    )


def _coil_picture(coil: Solenoid, former_m: float, thick_m: float) -> CoilPicture:
    return CoilPicture(
        former_m=former_m,
        length_m=coil.length_m,
        pitch_m=coil.pitch_m,
        wire_m=thick_m,
        turns=coil.turns,
        tap_turns=None,
    )


def _coil_cut(coil: Solenoid, tail_m: float) -> CutOut:
    winding = coil.wire_length_m
    return CutOut(
        wire="long",
        cut_m=math.ceil((1.02 * winding + 2 * tail_m) * 1e3) / 1e3,
        winding_m=winding,
        turn_m=winding / coil.turns,
        tails_m=2 * tail_m,
    )


def _coil_fit(coil: Solenoid, outer_m: float) -> FitOut:
    return FitOut(
        most_turns=500, free_deg=None, outer_m=outer_m, height_m=coil.length_m, boxes=boxes(outer_m, coil.length_m)
    )


def choke_report(asked: WindingAsked, element: Choke) -> WindingOut:
    """A choke: what the current outside the coax meets on every band, the coax it takes, what it bears."""
    content, f, part = asked.content, grid_of(asked), element.to_core()
    z = np.asarray(part.impedance_ohm(f))
    alone = System(FixedLoad(0j), [Element(element.key, "series", part)])
    low, high = fan(alone, f, element.spreads(), rng_of(content), lambda ohm: np.asarray(ohm.real), FAN_BUILDS)
    line = element.line
    findings: list[Finding] = []
    picture: Picture
    if element.core is not None:
        laid = element.winding()
        bend = chokes.bend_m(laid.ring, line.thick_m)
        body = ring_body(laid.ring)
        cuts, fit, picture = ring_cuts(laid, line.wires), ring_fit(laid), picture_of(laid, 1)
        turns = _turns(element.turns, laid.crosses_after)
        turns.returns = element.turns - 1
        findings += material_findings(laid.ring, content)
    else:
        coil = element.coil
        bend, body = coil.diameter_m / 2, coil_body(coil)
        cuts = [_coil_cut(coil, element.tail_m).model_copy(update={"wire": wire}) for wire in line.wires]
        fit, turns = _coil_fit(coil, coil.diameter_m + line.thick_m), _turns(element.turns)
        picture = _coil_picture(coil, coil.diameter_m - line.thick_m, line.across_m)
    if line.pair_ohm is not None:
        findings += pair_findings(line.pair_ohm, COAX_OHM)
    elif bend < chokes.LEAST_BEND * line.thick_m:
        least = chokes.LEAST_BEND * line.thick_m
        findings.append(Finding(code="tight_bend", values={"bend_m": bend, "least_m": least}))
    bands, heats = [], []
    allowed = heat.loss_w(heat.WARM_C, body[0])
    targets = content.core_targets()
    for target, rated in zip(targets, chokes.rated(targets, f, z), strict=True):
        current = element.current_a
        # Judged where it chokes least, it heats where its resistance is largest.
        borne = None if current is None else chokes.borne(rated.band_ohm, current)
        watts = None if borne is None else float(borne.power_w.max())
        volts = None if borne is None else float(borne.voltage_v.max())
        speech = data.MODE_DUTY["speech"]
        most = chokes.highest_current_a(allowed, max(float(rated.band_ohm.real.max()), 1e-6), speech)
        bands.append(
            RatedOut(
                label=rated.label,
                at_hz=rated.at_hz,
                resistance_ohm=rated.resistance_ohm,
                reactance_ohm=rated.reactance_ohm,
                rating=rated.rating,
                loss_w=watts,
                voltage_v=volts,
                highest_a=most,
            )
        )
        heats.append(
            HeatOut(
                label=rated.label,
                at_hz=rated.at_hz,
                core_w=watts or 0.0,
                copper_w=0.0,
                loss_db=0.0,
                flux_t=None,
                flux_guide_t=None,
                swr=None,
                swr_limit=target.swr_limit,
                voltage_v=volts,
                current_a=None if current is None else current * math.sqrt(2),
                rises=rises_of(watts or 0.0, asked.power_w, body),
            )
        )
        if rated.rating in ("too little", "reactive"):
            findings.append(
                Finding(
                    code="choke_reactive" if rated.rating == "reactive" else "choke_too_little",
                    values={"label": rated.label, "resistance_ohm": rated.resistance_ohm},
                )
            )
    if element.core is not None:
        findings += curie(element.core.ring, heats)
    return WindingOut(
        kind="choke",
        key=element.key,
        wiring=None,
        made_of=MadeOf(
            mix=element.core.mix if element.core else None,
            size=element.core.size if element.core else None,
            stack=element.core.stack if element.core else None,
            wire=line.name,
            wire_m=line.metal_m,
            covered_m=line.thick_m,
            tolerance=element.core.spread if element.core else 0.05,
            measured=element.core is not None and element.core.measured,
            note=element.core.ring.material.note if element.core else "",
        ),
        turns=turns,
        cuts=cuts,
        fit=fit,
        joins=[],
        picture=picture,
        seen=seen(f, z),
        bench=BenchOut.of("resistance", f, z.real, (low, high)),
        heat=heats,
        stretch=None,
        findings=findings,
        choke=ChokeOut(
            bands=bands,
            length_m=cuts[0].cut_m,
            bend_m=bend if line.pair_ohm is None else None,
            pair_ohm=line.pair_ohm,
        ),
    )


def _leg(element: WireTrap, trap: Trap) -> TrappedLeg:
    return leg_for(trap, element.high_hz, element.low_hz, element.wire_radius_m, element.legs)


def _over(targets: list[Target], hz: float) -> Real:
    """All over the band that a frequency is the middle of; that alone where it is of none."""
    found = next((t for t in targets if t.low_hz <= hz <= t.high_hz), None)
    return np.array([hz]) if found is None else np.linspace(found.low_hz, found.high_hz, chokes.POINTS)


def _school(element: WireTrap, name: str, tuned_hz: float, targets: list[Target], power_w: float) -> SchoolOut:
    """The same trap tuned elsewhere; its leg is another one then."""
    try:
        other = element.model_copy(update={"tuned_hz": tuned_hz})
        leg = _leg(other, other.to_core())
    except NotMatchableError:
        return SchoolOut(
            name=name,  # type: ignore[arg-type]
            tuned_hz=tuned_hz,
            inner_m=None,
            outer_m=None,
            loss_w=None,
            voltage_v=None,
            lower_share=None,
        )
    upper, lower = (leg.borne(_over(targets, hz), power_w) for hz in (element.high_hz, element.low_hz))
    return SchoolOut(
        name=name,  # type: ignore[arg-type]
        tuned_hz=tuned_hz,
        inner_m=leg.inner_m,
        outer_m=leg.outer_m,
        loss_w=float(upper.trap_w.max()),
        voltage_v=float(max(upper.voltage_v.max(), lower.voltage_v.max())),
        lower_share=float(lower.all_traps_w.max() / power_w) if power_w else None,
    )


def link_dip(trap: Trap, frequency_hz: Real) -> Real:
    """Return loss in dB through a turn held beside the trap's coil: it dips where the trap resonates.

    Source:
        Two coupled coils, Z = jωL1 + (ωM)²/Z2 (any text on coupled circuits), M² = k²·L1·L2.
    """
    omega = 2 * np.pi * frequency_hz
    mutual2 = LINK_COUPLING**2 * LINK_H * float(np.asarray(trap.inductance_h))
    arm = 1j * omega * trap.inductance_h * (1 - 1j / trap.q)
    around = arm + 1 / (1j * omega * trap.capacitance_f)
    seen_ohm = np.asarray(1j * omega * LINK_H + omega**2 * mutual2 / around, dtype=complex)
    return return_loss_db(reflection_of(seen_ohm))


def _trap_fan(element: WireTrap, trap: Trap, f: Real) -> tuple[Real, Real]:
    """Between which resistances nineteen builds in twenty lie before a turn is squeezed: its peak moved about."""
    spreads = {s.field: s.relative for s in element.spreads()}
    moved = 0.5 * math.hypot(spreads["inductance_h"], spreads["capacitance_f"])
    all_of_it = np.stack([trap.impedance_ohm(f * (1 + moved * k)).real for k in np.linspace(-1, 1, 161)])
    return all_of_it.min(axis=0), all_of_it.max(axis=0)


def trap_report(asked: WindingAsked, element: WireTrap) -> WindingOut:
    """A trap: its values, the leg it makes, what it bears on both bands, and how to check it."""
    content, trap, coax = asked.content, element.to_core(), element.coax
    at = trap.resonance_hz
    f = np.linspace(at * (1 - AROUND), at * (1 + AROUND), POINTS)
    z = trap.impedance_ohm(f)
    low, high = _trap_fan(element, trap, f)
    leg = _leg(element, trap)
    if coax is None:
        row = element.coil.wire_row
        wound = element.coil.solenoid(element.turns)
        thick, metal, name = row.covered_m, row.diameter_m, row.name
    else:
        wound, thick, metal = coax.coil, element.outer_m, SHIELD * element.outer_m
        name = coax.cable.name
    body = coil_body(wound)
    targets = content.core_targets()
    labels = {t.label: t.center_hz for t in targets}

    def label_of(hz: float) -> str:
        return min(labels, key=lambda label: abs(math.log(labels[label] / hz)))

    bands, heats = [], []
    for hz in (element.high_hz, element.low_hz):
        # The middle of a band says what a trap acts as there; its worst end what it bears.
        borne = leg.borne(_over(targets, hz), asked.power_w)
        ohm = complex(trap.impedance_ohm(hz))
        watts = float(borne.trap_w.max())
        share = float(borne.all_traps_w.max()) / asked.power_w if asked.power_w else 0.0
        bands.append(
            BorneOut(
                label=label_of(hz),
                at_hz=hz,
                acts_as_h=trap.acts_as_h(hz),
                reactance_ohm=ohm.imag,
                resistance_ohm=ohm.real,
                loss_w=watts,
                lost_share=share,
                voltage_v=float(borne.voltage_v.max()),
                current_a=float(borne.current_a.max()),
            )
        )
        heats.append(
            HeatOut(
                label=label_of(hz),
                at_hz=hz,
                core_w=0.0,
                copper_w=watts,
                loss_db=-10 * math.log10(max(1 - share, 1e-6)),
                flux_t=None,
                flux_guide_t=None,
                swr=None,
                swr_limit=2.0,
                voltage_v=float(borne.voltage_v.max()),
                current_a=float(borne.current_a.max()),
                rises=rises_of(watts, asked.power_w, body),
            )
        )
    volts = max(b.voltage_v for b in bands)
    findings = [Finding(code="winding_voltage", values={"voltage_v": volts, "power_w": asked.power_w})]
    if asked.power_w == 0:
        findings = [Finding(code="no_power", values={})]
    findings.append(Finding(code="line_estimate", values={}))
    if coax is not None:
        findings.append(Finding(code="coax_trap_loss", values={}))
        findings.append(Finding(code="coax_voltage", values={"voltage_v": volts / 2}))
    housed = housed_hz(at, float(np.asarray(trap.capacitance_f)), element.housing_f)
    wide = np.geomspace(1e6, 60e6, 401)
    return WindingOut(
        kind="trap",
        key=element.key,
        wiring=None,
        made_of=MadeOf(
            mix=None,
            size=None,
            stack=None,
            wire=name,
            wire_m=metal,
            covered_m=thick,
            tolerance=element.coil_spread,
            measured=element.piece is not None,
            note="",
        ),
        turns=_turns(element.turns),
        cuts=[_coil_cut(wound, TAIL_M)],
        fit=_coil_fit(wound, element.former_m + 2 * thick),
        joins=[],
        picture=_coil_picture(wound, element.former_m, thick),
        seen=seen(f, z),
        bench=BenchOut.of("resistance", f, z.real, (low, high)),
        heat=heats,
        stretch=None,
        findings=findings,
        trap=TrapOut(
            inductance_h=float(np.asarray(trap.inductance_h)),
            capacitance_f=float(np.asarray(trap.capacitance_f)),
            q=float(np.asarray(trap.q)),
            resonance_hz=at,
            housed_hz=housed,
            inner_m=leg.inner_m,
            outer_m=leg.outer_m,
            coax_m=None if coax is None else coax.length_m,
            bands=bands,
            schools=[
                _school(element, "in the band", element.high_hz, targets, asked.power_w),
                _school(element, "just below it", BELOW * element.high_hz, targets, asked.power_w),
            ],
            link=CurveOut(frequency_hz=f.tolist(), value=numbers(link_dip(trap, f))),
            resistance_ohm=CurveOut(frequency_hz=f.tolist(), value=numbers(z.real)),
            reactance_ohm=CurveOut(frequency_hz=f.tolist(), value=numbers(z.imag)),
            port_swr=number(float(np.nanmin(swr_of_impedance(trap.impedance_ohm(wide))))),
        ),
    )
