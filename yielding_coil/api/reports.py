"""The whole report of one wound thing: turns, cuts, picture, curves, heat, and what to know."""

import math
from dataclasses import replace

import numpy as np

from yielding_coil import data
from yielding_coil.api.holding import rng_of
from yielding_coil.api.making import TAIL_M, Finding
from yielding_coil.api.numbers import numbers
from yielding_coil.api.pictures import CoilPicture, picture_of
from yielding_coil.api.warmth import HeatOut, Windable, heat_findings, heats_of
from yielding_coil.api.wound import (
    BenchOut,
    BoxFit,
    CutOut,
    FitOut,
    JoinOut,
    MadeOf,
    SeenOut,
    StretchOut,
    TurnsOut,
    WindingAsked,
    WindingOut,
    WireEnd,
)
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.ring import Material, Ring
from yielding_coil.core.solenoid import Solenoid
from yielding_coil.core.system import Antenna, Element, System
from yielding_coil.core.tolerance import fan, swr_fan
from yielding_coil.core.winding import Winding
from yielding_coil.core.wiring import joins_of
from yielding_coil.store.content import Coil, DesignContent
from yielding_coil.store.wound import CoilOnRing, WoundTransformer

POINTS = 201
# Builds behind the band in which a bench sweep of a right winding lies: nineteen in twenty.
FAN_BUILDS = 256
# Below this the winding stands well clear of its self-resonance; above it, no coil any more.
NOTED, WARNED = 0.3, 0.5


def report_of(asked: WindingAsked, antenna: Antenna) -> WindingOut:
    """Everything about one wound element below an antenna.

    Raises:
        NotFoundError: nothing is wound under that key.
    """
    content = asked.content
    element = next((e for e in content.elements if e.key == asked.key), None)
    if not isinstance(element, Windable):
        raise NotFoundError(
            f"nothing in this design is wound under “{asked.key}”",
            field="key",
            came_in=asked.key,
            accepted=", ".join(e.key for e in content.elements if isinstance(e, Windable))
            or "none here: add a coil, an unun or a balun first",
        )
    heats = heats_of(content, content.system(antenna), element, asked.power_w)
    if isinstance(element, Coil):
        return _coil(content, element, asked, heats)
    if isinstance(element, CoilOnRing):
        return _ring_coil(content, element, asked, heats)
    return _transformer(content, element, asked, heats)


def _grid(asked: WindingAsked) -> Real:
    return np.geomspace(asked.low_hz, max(asked.high_hz, asked.low_hz * 1.01), POINTS)


def goes_in(outer_m: float, thick_m: float, width_m: float, height_m: float, depth_m: float) -> bool:
    """Lying flat in a box, or with its axis along a tube."""
    return outer_m <= min(width_m, height_m) and thick_m <= depth_m


def _boxes(outer_m: float, thick_m: float) -> list[BoxFit]:
    return [
        BoxFit(
            key=box.key,
            name=box.name,
            fits=goes_in(outer_m, thick_m, box.width_m, box.height_m, box.depth_m),
        )
        for box in data.boxes().values()
    ]


def _ring_fit(laid: Winding, rings: int = 1) -> FitOut:
    outer = laid.ring.size.outer_m + 2 * (laid.tape_m + 2 * laid.covered_m)
    height = rings * (laid.ring.height_m + 2 * (laid.tape_m + 2 * laid.covered_m))
    return FitOut(
        most_turns=laid.ring.turns_that_fit(laid.covered_m, laid.tape_m),
        free_deg=math.degrees(laid.free_rad),
        outer_m=outer,
        height_m=height,
        boxes=_boxes(outer, height),
    )


def _ring_cuts(laid: Winding, names: tuple[str, ...]) -> list[CutOut]:
    """What to cut of every wire; those of a second ring are like those of the first."""
    cuts = laid.cuts()
    return [
        CutOut(
            wire=name,
            cut_m=cut.cut_m,
            winding_m=cut.winding_m,
            turn_m=cut.turn_m,
            tails_m=2 * laid.tail_m,
        )
        for name, cut in zip(names, cuts * (len(names) // len(cuts)), strict=True)
    ]


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
        note="; ".join(t for t in (material.note, doubt if element.core.ring.size.doubtful else "") if t),
    )


def _material_findings(ring: Ring, content: DesignContent) -> list[Finding]:
    """Where a prediction rests on data outside its range, or on none."""
    material, found = ring.material, []
    for target in content.core_targets():
        highest, lowest = material.highest_hz, material.lowest_hz
        if highest is not None and target.high_hz > highest:
            found.append(
                Finding(
                    code="material_above_range",
                    values={
                        "mix": material.mix,
                        "label": target.label,
                        "highest_hz": highest,
                        "note": material.note,
                    },
                )
            )
        if lowest is not None and target.low_hz < lowest:
            found.append(
                Finding(
                    code="material_below_range",
                    values={"mix": material.mix, "label": target.label, "lowest_hz": lowest, "note": material.note},
                )
            )
    if material.kind == "powder":
        known = bool(material.q_points)
        found.append(
            Finding(
                code="powder_loss_estimated" if known else "powder_loss_unknown",
                values={"mix": material.mix, "note": material.note},
            )
        )
    elif material.note and not found and _note_counts(material, content):
        found.append(Finding(code="material_note", values={"mix": material.mix, "note": material.note}))
    return found


# Air on a summer day, and how near the Curie temperature a core begins to let go.
AIR_C, CURIE_MARGIN_C = 30.0, 20.0


def _curie(ring: Ring, heats: list[HeatOut]) -> list[Finding]:
    """Where a mode warms a core to where it loses its permeability."""
    curie = ring.material.curie_c
    hottest = max((r.rise_c for h in heats for r in h.rises), default=0.0)
    if curie is None or AIR_C + hottest < curie - CURIE_MARGIN_C:
        return []
    return [Finding(code="near_curie", values={"mix": ring.material.mix, "curie_c": curie, "rise_c": hottest})]


def _note_counts(material: Material, content: DesignContent) -> bool:
    """Whether the note of a ferrite speaks of the bands; one on the end of its curve counts above that alone."""
    if material.note_below_hz is None:
        return material.valid_to_hz is None
    return any(t.low_hz < material.note_below_hz for t in content.core_targets())


def _fitting_ohm(element: WoundTransformer) -> float:
    """The resistor that shows 50 Ω through an ideal core: fifty times the impedance ratio."""
    return 50.0 * (element.secondary / element.primary_turns) ** 2


def _transformer(
    content: DesignContent, element: WoundTransformer, asked: WindingAsked, heats: list[HeatOut]
) -> WindingOut:
    laid, part, f = element.winding(), element.to_core(content.center_hz), _grid(asked)
    resistor = asked.resistor_ohm or _fitting_ohm(element)
    bench = System(FixedLoad(resistor), [Element(element.key, "through", part)])
    nominal = swr_of_impedance(bench.impedance(f))
    low, high = swr_fan(bench, f, element.spreads(content.center_hz), rng_of(content), FAN_BUILDS)
    core = part.magnetising_ohm(f)
    way = element.way
    m, n = element.primary_turns, element.secondary
    tapped = way.in_hand == 1 and not element.own_primary
    findings = heat_findings(heats, asked.power_w) + _material_findings(element.core.ring, content)
    findings += _curie(element.core.ring, heats)
    worst_zm = float(np.abs(part.magnetising_ohm(np.array([t.low_hz for t in content.core_targets()]))).min())
    if part.line is not None:
        own = float(np.asarray(element.pair.cable.impedance_ohm))
        fits = 50.0 * way.secondary_turns(1, 1)
        if not 1 / 1.5 < own / fits < 1.5:
            findings.append(Finding(code="pair_impedance", values={"pair_ohm": own, "fits_ohm": fits}))
    if worst_zm < 100:
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
        cuts=_ring_cuts(laid, element.names if way.rings == 1 else way.strands),
        fit=_ring_fit(laid, way.rings),
        joins=[
            JoinOut(at=j.at, ends=[WireEnd(wire=w, end=e) for w, e in j.ends])
            for j in joins_of(way, element.own_primary)
        ],
        picture=picture_of(laid, way.rings),
        seen=SeenOut(
            frequency_hz=f.tolist(),
            resistance_ohm=numbers(core.real),
            reactance_ohm=numbers(core.imag),
            inductance_h=numbers(core.imag / (2 * np.pi * f)),
            q=numbers(core.imag / core.real),
            loss_db=numbers(part.loss_db(f, np.full(f.shape, resistor))),
        ),
        bench=BenchOut(
            what="swr",
            resistor_ohm=resistor,
            frequency_hz=f.tolist(),
            value=numbers(nominal),
            low=numbers(low),
            high=numbers(high),
        ),
        heat=heats,
        stretch=None,
        findings=findings,
    )


def _ring_coil(
    content: DesignContent, element: CoilOnRing, asked: WindingAsked, heats: list[HeatOut]
) -> WindingOut:
    laid, part, f = element.winding(), element.to_core(content.center_hz), _grid(asked)
    alone = System(FixedLoad(0j), [Element(element.key, "series", part)])
    z = part.impedance_ohm(f)

    def henry(ohm: Complex) -> Real:
        return np.asarray(np.imag(ohm) / (2 * np.pi * f))

    low, high = fan(alone, f, element.spreads(content.center_hz), rng_of(content), henry, FAN_BUILDS)
    findings = heat_findings(heats, asked.power_w) + _material_findings(element.core.ring, content)
    findings += _curie(element.core.ring, heats)
    own = _own_resonance(
        float(element.core.ring.inductance_h(element.turns)), float(np.asarray(part.winding_capacitance_f))
    )
    findings += _near_resonance(element.key, content, own)
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
        cuts=_ring_cuts(laid, ("long",)),
        fit=_ring_fit(laid),
        joins=[],
        picture=picture_of(laid, 1),
        seen=_seen(f, z),
        bench=BenchOut(
            what="inductance",
            resistor_ohm=None,
            frequency_hz=f.tolist(),
            value=numbers(henry(z)),
            low=numbers(low),
            high=numbers(high),
        ),
        heat=heats,
        stretch=None,
        findings=findings,
    )


def _own_resonance(inductance_h: float, capacitance_f: float) -> float:
    return 1 / (2 * math.pi * math.sqrt(inductance_h * max(capacitance_f, 1e-18)))


def _near_resonance(key: str, content: DesignContent, own_hz: float) -> list[Finding]:
    ratio = max(t.high_hz for t in content.core_targets()) / own_hz
    if ratio <= NOTED:
        return []
    code = "near_self_resonance" if ratio > WARNED else "own_capacitance"
    return [Finding(code=code, values={"key": key, "ratio": ratio, "self_resonance_hz": own_hz})]


def _seen(f: Real, z: Complex) -> SeenOut:
    with np.errstate(divide="ignore", invalid="ignore"):
        return SeenOut(
            frequency_hz=f.tolist(),
            resistance_ohm=numbers(z.real),
            reactance_ohm=numbers(z.imag),
            inductance_h=numbers(z.imag / (2 * np.pi * f)),
            q=numbers(z.imag / z.real),
            loss_db=numbers(np.zeros(f.shape)),
        )


def _coil(content: DesignContent, element: Coil, asked: WindingAsked, heats: list[HeatOut]) -> WindingOut:
    center, f = content.center_hz, _grid(asked)
    wound = element.solenoid(element.turns(center))
    row = element.wire_row
    # As an analyser reads it: close turns crowd the current inwards.
    omega = 2 * np.pi * f
    arm = wound.resistance_ohm(f) + 1j * omega * wound.crowded_inductance_h
    z = arm / (1 + 1j * omega * wound.self_capacitance_f * arm)
    henry = z.imag / omega
    findings = heat_findings(heats, asked.power_w)
    findings += _near_resonance(element.key, content, wound.self_resonance_hz)
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
            boxes=_boxes(outer, wound.length_m),
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
        seen=_seen(f, z),
        bench=BenchOut(
            what="inductance",
            resistor_ohm=None,
            frequency_hz=f.tolist(),
            value=numbers(henry),
            low=numbers(henry * (1 - element.spread)),
            high=numbers(henry * (1 + element.spread)),
        ),
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
