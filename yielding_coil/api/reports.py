"""The whole report of one wound thing: turns, cuts, picture, curves, heat, and what to know."""

import math
from dataclasses import replace

import numpy as np

from yielding_coil.api.beside import choke_report, trap_report
from yielding_coil.api.couplers import coupler_findings, coupler_report, tuned_heats
from yielding_coil.api.holding import rng_of
from yielding_coil.api.laid import (
    COAX_OHM,
    FAN_BUILDS,
    boxes,
    curie,
    grid_of,
    material_findings,
    near_resonance,
    own_resonance,
    pair_findings,
    ring_cuts,
    ring_fit,
    seen,
)
from yielding_coil.api.making import TAIL_M, Finding
from yielding_coil.api.pictures import CoilPicture, picture_of
from yielding_coil.api.suspects import fitting_ohm, setups_of
from yielding_coil.api.warmth import HeatOut, heat_findings, heats_of
from yielding_coil.api.wound import (
    BenchOut,
    BenchSetupOut,
    CutOut,
    FitOut,
    JoinOut,
    MadeOf,
    StretchOut,
    TurnsOut,
    WindingAsked,
    WindingOut,
    WireEnd,
)
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.solenoid import Solenoid
from yielding_coil.core.system import Antenna, Element, System
from yielding_coil.core.tolerance import fan, swr_fan
from yielding_coil.core.winding import joins_of
from yielding_coil.documents.choke_and_trap import Choke, WireTrap
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import DesignContent, Windable, wound_of
from yielding_coil.documents.ring_wound import CoilOnRing, WoundTransformer


def report_of(asked: WindingAsked, antenna: Antenna) -> WindingOut:
    """Everything about one wound element below an antenna.

    Raises:
        NotFoundError: nothing is wound under that key.
    """
    content = asked.content
    element = wound_of(content, asked.key)
    found = _report(asked, antenna, element)
    found.setups = [
        BenchSetupOut(
            key=setup.key,
            resistor_ohm=setup.load_ohm if setup.key in ("resistor", "half") else None,
            link_turns=setup.link_turns,
        )
        for setup in setups_of(element, asked.resistor_ohm)
    ]
    return found


def _report(asked: WindingAsked, antenna: Antenna, element: Windable) -> WindingOut:
    content = asked.content
    if isinstance(element, Choke):
        return choke_report(asked, element)
    if isinstance(element, WireTrap):
        return trap_report(asked, element)
    if isinstance(element, WoundTransformer) and element.tuning is not None:
        return _transformer(content, antenna, element, asked, tuned_heats(content, antenna, element, asked.power_w))
    heats = heats_of(content, content.system(antenna), element, asked.power_w)
    if isinstance(element, Coil):
        return _coil(content, element, asked, heats)
    if isinstance(element, CoilOnRing):
        return _ring_coil(content, element, asked, heats)
    return _transformer(content, antenna, element, asked, heats)


def _made_of(element: CoilOnRing | WoundTransformer) -> MadeOf:
    row, material = element.wire_row, element.core.ring.material
    doubt = "the trade name may belong to a ring of slightly other size: measure yours"
    return MadeOf(
        mix=material.mix,
        size=element.core.size,
        stack=element.core.stack,
        wire=row.name,
        wire_m=row.diameter_m,
        covered_m=row.covered_m,
        tolerance=element.core.spread,
        measured=element.core.measured,
        note="; ".join(t for t in (material.note, doubt if element.core.ring.size.doubtful else "") if t),
    )


def _transformer(
    content: DesignContent,
    antenna: Antenna,
    element: WoundTransformer,
    asked: WindingAsked,
    heats: list[HeatOut],
) -> WindingOut:
    laid, part, f = element.winding(), element.to_core(content.center_hz), grid_of(asked)
    resistor = asked.resistor_ohm or fitting_ohm(element)
    bench = System(FixedLoad(resistor), [Element(element.key, "through", part)])
    nominal = swr_of_impedance(bench.impedance(f))
    low, high = swr_fan(bench, f, element.spreads(content.center_hz), rng_of(content), FAN_BUILDS)
    core = part.magnetising_ohm(f)
    way = element.way
    coupler = coupler_report(content, antenna, element, asked.power_w)
    m, n = element.primary_turns, element.secondary
    tapped = way.in_hand == 1 and not element.own_primary
    findings = heat_findings(heats, asked.power_w) + material_findings(element.core.ring, content)
    findings += curie(element.core.ring, heats) + coupler_findings(element, coupler)
    worst_zm = float(np.abs(part.magnetising_ohm(np.array([t.low_hz for t in content.core_targets()]))).min())
    if part.line is not None:
        own = float(np.asarray(element.pair.cable.impedance_ohm))
        findings += pair_findings(own, COAX_OHM * way.secondary_turns(1, 1))
    if worst_zm < 100 and element.tuning is None:
        findings.append(Finding(code="few_turns", values={"key": element.key, "magnetising_ohm": worst_zm}))
    return WindingOut(
        kind="transformer",
        key=element.key,
        wiring=element.wiring,
        made_of=_made_of(element),
        turns=TurnsOut(
            passes=laid.turns,
            returns=laid.turns - 1,
            primary=m,
            secondary=n,
            turns_ratio=n / m,
            impedance_ratio=(n / m) ** 2,
            in_hand=way.in_hand,
            tap_after=m if tapped else None,
            crosses_after=laid.crosses_after,
        ),
        cuts=ring_cuts(laid, element.names if way.rings == 1 else way.strands),
        fit=ring_fit(laid, way.rings),
        joins=[
            JoinOut(at=j.at, ends=[WireEnd(wire=w, end=e) for w, e in j.ends])
            for j in joins_of(way, element.own_primary)
        ],
        picture=picture_of(laid, way.rings),
        seen=seen(f, core, part.loss_db(f, np.full(f.shape, resistor))),
        bench=BenchOut.of("swr", f, nominal, (low, high), resistor),
        heat=heats,
        stretch=None,
        findings=findings,
        coupler=coupler,
    )


def _ring_coil(
    content: DesignContent, element: CoilOnRing, asked: WindingAsked, heats: list[HeatOut]
) -> WindingOut:
    laid, part, f = element.winding(), element.to_core(content.center_hz), grid_of(asked)
    alone = System(FixedLoad(0j), [Element(element.key, "series", part)])
    z = part.impedance_ohm(f)

    def henry(ohm: Complex) -> Real:
        return np.asarray(np.imag(ohm) / (2 * np.pi * f))

    low, high = fan(alone, f, element.spreads(content.center_hz), rng_of(content), henry, FAN_BUILDS)
    findings = heat_findings(heats, asked.power_w) + material_findings(element.core.ring, content)
    findings += curie(element.core.ring, heats)
    own = own_resonance(
        float(element.core.ring.inductance_h(element.turns)), float(np.asarray(part.winding_capacitance_f))
    )
    findings += near_resonance(element.key, content, own)
    return WindingOut(
        kind="ring_coil",
        key=element.key,
        wiring=None,
        made_of=_made_of(element),
        turns=TurnsOut(
            passes=element.turns,
            returns=element.turns - 1,
            primary=None,
            secondary=None,
            turns_ratio=None,
            impedance_ratio=None,
            in_hand=1,
            tap_after=None,
            crosses_after=laid.crosses_after,
        ),
        cuts=ring_cuts(laid, ("long",)),
        fit=ring_fit(laid),
        joins=[],
        picture=picture_of(laid, 1),
        seen=seen(f, z),
        bench=BenchOut.of("inductance", f, henry(z), (low, high)),
        heat=heats,
        stretch=None,
        findings=findings,
    )


def _coil(content: DesignContent, element: Coil, asked: WindingAsked, heats: list[HeatOut]) -> WindingOut:
    center, f = content.center_hz, grid_of(asked)
    wound = element.solenoid(element.turns(center))
    row = element.wire_row
    # As an analyser reads it: close turns crowd the current inwards.
    omega = 2 * np.pi * f
    arm = wound.resistance_ohm(f) + 1j * omega * wound.crowded_inductance_h
    z = arm / (1 + 1j * omega * wound.self_capacitance_f * arm)
    henry = z.imag / omega
    findings = heat_findings(heats, asked.power_w)
    findings += near_resonance(element.key, content, wound.self_resonance_hz)
    outer = element.former_m + 2 * row.covered_m
    winding_m = wound.wire_length_m
    return WindingOut(
        kind="coil",
        key=element.key,
        wiring=None,
        made_of=MadeOf(
            mix=None,
            size=None,
            stack=None,
            wire=row.name,
            wire_m=row.diameter_m,
            covered_m=row.covered_m,
            tolerance=element.spread,
            measured=element.piece is not None,
            note="",
        ),
        turns=TurnsOut(
            passes=wound.turns,
            returns=math.floor(wound.turns),
            primary=None,
            secondary=None,
            turns_ratio=None,
            impedance_ratio=None,
            in_hand=1,
            tap_after=element.tap_turns,
            crosses_after=None,
        ),
        cuts=[
            CutOut(
                wire="long",
                cut_m=math.ceil((1.02 * winding_m + 2 * TAIL_M) * 1e3) / 1e3,
                winding_m=winding_m,
                turn_m=winding_m / wound.turns,
                tails_m=2 * TAIL_M,
            )
        ],
        fit=FitOut(
            most_turns=500,
            free_deg=None,
            outer_m=outer,
            height_m=wound.length_m,
            boxes=boxes(outer, wound.length_m),
        ),
        joins=[],
        picture=CoilPicture(
            former_m=element.former_m,
            length_m=wound.length_m,
            pitch_m=wound.pitch_m,
            wire_m=row.covered_m,
            turns=wound.turns,
            tap_turns=element.tap_turns,
        ),
        seen=seen(f, z),
        bench=BenchOut.of("inductance", f, henry, (henry * (1 - element.spread), henry * (1 + element.spread))),
        heat=heats,
        stretch=_stretch(wound, row.covered_m, center),
        findings=findings,
    )


def _stretch(wound: Solenoid, covered_m: float, center_hz: float) -> StretchOut:
    """From turns touching to twice their present pitch: what an analyser reads at the centre."""
    close, wide = (replace(wound, pitch_m=p) for p in (covered_m, max(2 * wound.pitch_m, 2 * covered_m)))
    return StretchOut(
        low_h=wide.reading_h(center_hz),
        high_h=close.reading_h(center_hz),
        low_pitch_m=wide.pitch_m,
        high_pitch_m=close.pitch_m,
    )
