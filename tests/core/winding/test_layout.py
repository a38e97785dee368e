import math
from itertools import pairwise

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.ring import Ring
from yielding_coil.core.winding import END, START, TAP, WIRINGS, Strand, WindingLayout, joins_of, strands_of, wiring

FT240_43 = Ring(data.ring_material("43"), data.ring_size("FT240"))
# Chosen before the first run.
SEED, TRIALS = 20261124, 200


def wound(turns=16, primary=2, crossed=True, ring=FT240_43, covered_m=1.08e-3, **more):
    return WindingLayout(
        ring, strands_of(("long", "primary"), 1, primary, turns), covered_m, crossed=crossed, **more
    )


def drawn_at_random(rng):
    """A winding somebody might make; None when it is refused."""
    size = data.ring_size(str(rng.choice(list(data.ring_sizes()))))
    ring = Ring(data.ring_material("43"), size, int(rng.integers(1, 4)))
    covered = float(rng.uniform(0.02, 0.12)) * size.inner_m
    in_hand = int(rng.integers(1, 5))
    turns = int(rng.integers(2, 40))
    names = ("long", "primary") if in_hand == 1 else ("red", "blue", "copper", "ink")
    strands = strands_of(names, in_hand, int(rng.integers(1, turns + 1)) if in_hand == 1 else turns, turns)
    try:
        return WindingLayout(
            ring,
            strands,
            covered,
            twisted=bool(rng.integers(2)),
            crossed=bool(rng.integers(2)),
            tape_m=float(rng.choice([0, 0.2e-3])),
            tail_m=float(rng.uniform(0.03, 0.15)),
        )
    except OutOfDomainError:
        return None


def windings():
    rng = np.random.default_rng(SEED)
    found = []
    while len(found) < TRIALS:
        winding = drawn_at_random(rng)
        if winding is not None:
            found.append(winding)
    return found


def taut_way(winding: WindingLayout, name: str) -> float:
    """Length of one wire as it lies, by a polyline of its own in space.

    The bundle follows the ring's section with round corners, its place round the ring moving on evenly with the
    way; wires in a twist go round the bundle's middle. Only where each turn passes the hole is taken from the
    winding.
    """
    strand = next(s for s in winding.strands if s.name == name)
    turns = [p for p in winding.passes() if strand.first <= p.number <= strand.last]
    total = 0.0
    # From and to (turns of the section, 0 in the middle of the hole), the pass, and the angles at both ends.
    pieces: list[tuple[float, float, int, float, float]] = []
    for k, turn in enumerate(turns):
        off = winding.tape_m + thickness(winding, turn.number) / 2
        edge, rim = marks(winding.ring, off)
        across = k > 0 and turns[k - 1].half != turn.half
        on = turn.out_rad - turn.angle_rad
        # A wire comes in over the front face, from the rim; behind the crossing straight from the hole's edge.
        if k == 0:
            aside = math.copysign(min(abs(on), turn.width_rad / 2 + math.radians(4)), on)
            pieces.append((-rim, 0.0, turn.number, turn.angle_rad - aside, turn.angle_rad))
        elif across:
            pieces.append((-edge, 0.0, turn.number, turn.angle_rad, turn.angle_rad))
        if k + 1 < len(turns) and turns[k + 1].half == turn.half:
            pieces.append((0.0, 1.0, turn.number, turn.angle_rad, turns[k + 1].angle_rad))
        else:
            pieces.append((0.0, 1.0 - rim, turn.number, turn.angle_rad, turn.out_rad))
    ends = []
    for begin, end, number, one, other in pieces:
        thick = thickness(winding, number)
        s = np.linspace(begin, end, 200)
        r, z = section(winding.ring, winding.tape_m + thick / 2, s)
        angle = np.linspace(one, other, s.size)
        middle = np.stack([r * np.cos(angle), r * np.sin(angle), z], axis=1)
        if winding.twisted and len(winding.wires_in(number)) > 1:
            middle = twisted(middle, (thick - winding.covered_m) / 2, winding.covered_m)
        total += float(np.linalg.norm(np.diff(middle, axis=0), axis=1).sum())
        ends.append((middle[0], middle[-1], number))
    for (_, left, number), (entered, _, later) in pairwise(ends):
        if winding.crosses_after == number and later == number + 1:
            total += float(np.linalg.norm(entered - left))
    return total


def thickness(winding, number):
    """Of a turn's bundle: round twists of two, three and four wires, or one wire thick side by side."""
    together = len(winding.wires_in(number))
    return winding.covered_m * ({1: 1.0, 2: 2.0, 3: 2.155, 4: 2.414}[together] if winding.twisted else 1.0)


def marks(ring, off):
    """On the section, as parts of its length from the middle of the hole: the hole's front edge, the front rim."""
    w, h = (ring.size.outer_m - ring.size.inner_m) / 2, ring.height_m
    quarter = math.pi * off / 2
    whole = 2 * (w + h) + 4 * quarter
    return (h / 2 + quarter) / whole, (h / 2 + quarter + w) / whole


def section(ring, off, s):
    """Radius and height along the rounded section; s 0 in the middle of the hole, ±½ in the middle outside."""
    w, h = (ring.size.outer_m - ring.size.inner_m) / 2, ring.height_m
    quarter = math.pi * off / 2
    whole = 2 * (w + h) + 4 * quarter
    way = np.mod(np.asarray(s), 1.0) * whole
    corners = np.cumsum([h / 2, quarter, w, quarter, h, quarter, w, quarter, h / 2])
    ri, ro = ring.size.inner_m / 2, ring.size.outer_m / 2
    part = np.searchsorted(corners, way, side="right")
    on = way - np.concatenate([[0.0], corners])[part]
    cos, sin = np.cos(on / off), np.sin(on / off)
    places = [
        (ri - off, -on),
        (ri - off * cos, -h / 2 - off * sin),
        (ri + on, -h / 2 - off),
        (ro + off * sin, -h / 2 - off * cos),
        (ro + off, -h / 2 + on),
        (ro + off * cos, h / 2 + off * sin),
        (ro - on, h / 2 + off),
        (ri - off * sin, h / 2 + off * cos),
        (ri - off, h / 2 - on),
    ]
    r, z = (np.choose(part, [p[axis] for p in places]) for axis in (0, 1))
    return r, z


def twisted(middle, radius, covered):
    """A wire round a bundle's middle, one twist in 11 of its diameters (3 to 5 % longer: common practice)."""
    steps = np.linalg.norm(np.diff(middle, axis=0), axis=1)
    way = np.concatenate([[0.0], np.cumsum(steps)])
    along = np.gradient(middle, axis=0)
    along /= np.linalg.norm(along, axis=1)[:, np.newaxis]
    side = np.cross(along, [0.3, 0.5, 0.81])
    side /= np.linalg.norm(side, axis=1)[:, np.newaxis]
    phase = (2 * np.pi * way / (11 * covered))[:, np.newaxis]
    return middle + radius * (np.cos(phase) * side + np.sin(phase) * np.cross(along, side))


@pytest.mark.deep
def test_what_is_cut_leaves_the_tails_and_wastes_little():
    """200 windings drawn by a seed chosen beforehand: at least the tails asked, at most a tenth over."""
    for winding in windings():
        for cut in winding.cuts():
            needed = taut_way(winding, cut.name) + 2 * winding.tail_m
            assert needed <= cut.cut_m <= 1.1 * needed, (winding, cut)


def turns_through(way: np.ndarray, ring: Ring) -> tuple[int, int]:
    """Passes of a path through the hole, front to back and back to front: crossings of z = 0 inside the ring."""
    forth = back = 0
    for (x0, y0, z0), (x1, y1, z1) in pairwise(way):
        if z0 * z1 >= 0:
            continue
        share = z0 / (z0 - z1)
        if math.hypot(x0 + share * (x1 - x0), y0 + share * (y1 - y0)) < ring.size.inner_m / 2:
            forth, back = forth + (z0 > 0), back + (z0 < 0)
    return forth, back


def test_no_winding_bucks_itself():
    """Ampère: what magnetises is the net number of passes. All go one way, in both halves, in 200 windings."""
    for winding in windings():
        for strand in winding.strands:
            forth, back = turns_through(winding.way_of(strand.name), winding.ring)
            assert (forth, back) == (strand.last - strand.first + 1, 0)


def test_two_in_sixteen_crossed_over_as_drawn():
    winding = wound()
    turns = winding.passes()

    assert [p.number for p in turns] == list(range(1, 17))
    assert winding.crosses_after == 8
    assert [p.half for p in turns] == [1] * 8 + [2] * 8
    assert [p.wires for p in turns] == [("long", "primary")] * 2 + [("long",)] * 14
    degrees = [math.degrees(p.angle_rad) for p in turns]
    # Up the right half from the bottom, across the hole, then up the left half: the ends lie opposite.
    assert all(b > a for a, b in pairwise(degrees[:8]))
    assert -90 < degrees[0] < degrees[7] < 90
    assert all(b < a for a, b in pairwise(degrees[8:]))
    assert -90 > degrees[8] > degrees[15] > -270


def test_the_picture_shows_every_turn_the_crossing_and_the_tails():
    winding = wound()
    strokes = winding.strokes(6e-3)
    long = [s for s in strokes if s.wire == "long"]
    primary = [s for s in strokes if s.wire == "primary"]

    assert [s.number for s in long] == [*range(1, 17), 0]
    assert [s.number for s in primary] == [1, 2, 0]
    assert [s.number for s in long if s.kind == "cross"] == [9]
    assert [s.number for s in long if s.kind == "tail"] == [1, 0]
    inner, outer = winding.ring.size.inner_m / 2, winding.ring.size.outer_m / 2
    for stroke in strokes:
        if stroke.kind == "turn":
            from_outside, to_hole = (math.hypot(*p) for p in stroke.points)
            assert from_outside > outer
            assert to_hole < inner
    crossing = next(s for s in long if s.kind == "cross")
    (x0, y0), (x1, y1) = crossing.points
    assert y0 > outer * 0.9
    assert y1 < 0
    assert math.hypot(x1 - x0, y1 - y0) > outer


def test_wires_that_share_a_turn_lie_beside_each_other():
    winding = WindingLayout(FT240_43, strands_of(("red", "blue", "copper"), 3, 9, 9), 1.6e-3, twisted=False)
    starts = [s.points[-1] for s in winding.strokes(6e-3) if s.number == 4]

    gaps = [math.dist(a, b) for a, b in pairwise(starts)]
    assert gaps == pytest.approx([1.6e-3, 1.6e-3], rel=0.02)


def test_no_two_turns_lie_on_each_other():
    for winding in windings():
        turns = sorted(winding.passes(), key=lambda p: p.angle_rad % (2 * math.pi))
        for one, other in pairwise(turns):
            apart = other.angle_rad % (2 * math.pi) - one.angle_rad % (2 * math.pi)
            assert apart >= (one.width_rad + other.width_rad) / 2 - 1e-9


def test_what_is_left_of_the_hole():
    """16 turns of 1.08 mm and two twisted ones: what single wires take is 2·asin(d/(D − d)) each."""
    one = 2 * math.asin(1.08 / (35.55 - 1.08))
    two = 2 * math.asin(2.16 / (35.55 - 2.16))

    assert wound().free_rad == pytest.approx(2 * math.pi - 14 * one - 2 * two)


def test_turns_that_do_not_fit_are_refused_with_what_would():
    with pytest.raises(OutOfDomainError, match=r"turns is 60 of 2.1 mm; it must be at most about \d+ in one layer"):
        wound(60, crossed=False, covered_m=2.1e-3)
    with pytest.raises(OutOfDomainError, match="in each half of this hole"):
        wound(48, covered_m=2.1e-3)
    with pytest.raises(OutOfDomainError, match="take fewer turns, a thinner wire or a larger ring"):
        wound(40, crossed=False, ring=Ring(FT240_43.material, data.ring_size("FT50")))


def test_a_tap_beyond_the_winding_is_refused():
    with pytest.raises(OutOfDomainError, match="primary_turns is 17; it must be at most the 16 turns"):
        wound(16, 17)


def test_other_refusals():
    with pytest.raises(OutOfDomainError, match="turns is 1; it must be 2 or more for a winding that crosses over"):
        wound(1, 1)
    with pytest.raises(OutOfDomainError, match="turns is 0; it must be 1 to 200"):
        WindingLayout(FT240_43, (Strand("long", 1, 0),), 1e-3)
    with pytest.raises(OutOfDomainError, match="tail_m is -0.1"):
        wound(tail_m=-0.1)


def voltages(kind: str, turns: int) -> dict[str, float]:
    """Voltage of every terminal for one volt a turn from each wire's start to its end, the shield at zero.

    Joints put ends on one potential; a tap lies where the primary's turns end.
    """
    chosen = wiring(kind)
    lengths = dict.fromkeys(chosen.strands, float(turns))
    if chosen.in_hand == 1:
        lengths = {"long": 8.0 * turns, "primary": float(turns)}
    level: dict[str, float] = {}
    places = {(at or f"joint {i}"): ends for i, (at, ends) in enumerate((j.at, j.ends) for j in chosen.joins)}
    level["coax shield"] = 0.0
    for _ in range(len(places)):
        starts = {w: level[p] for p, ends in places.items() if p in level for w, e in ends if e == START}
        starts |= {
            w: level[p] - lengths[w] for p, ends in places.items() if p in level for w, e in ends if e == END
        }
        for place, ends in places.items():
            for wire, end in ends:
                if wire in starts and place not in level:
                    level[place] = starts[wire] + (lengths[wire] if end == END else 0.0)
    return level


@pytest.mark.parametrize(
    ("kind", "ratio"), [("two-in-hand", 2), ("three-in-hand", 3), ("four-in-hand", 4), ("tapped", 8)]
)
def test_an_unun_joined_as_charted_steps_up_by_its_turns(kind, ratio):
    """Faraday: the same voltage on every turn, added along the joints."""
    level = voltages(kind, 9)

    assert level["wire post"] / level["coax centre"] == ratio


def test_a_voltage_balun_joined_as_charted_gives_both_legs_the_same_and_opposite():
    level = voltages("voltage-balun-4", 9)

    assert level["leg 1"] == level["coax centre"] == -9
    assert level["leg 2"] == 9


@pytest.mark.parametrize("kind", WIRINGS)
def test_every_end_of_every_wire_goes_somewhere(kind):
    chosen = wiring(kind)
    ends = {end for join in chosen.joins for end in join.ends}

    assert ends == {(wire, end) for wire in chosen.strands for end in (START, END)}


@pytest.mark.parametrize("kind", [k for k, w in WIRINGS.items() if w.as_line])
def test_a_current_balun_sends_opposite_currents_through_each_pair(kind):
    """In at the coax's two sides by the starts, out to both legs by the ends."""
    chosen = wiring(kind)
    starts = {join.at: {w for w, e in join.ends if e == START} for join in chosen.joins if join.at}

    assert len(starts["coax centre"]) == len(starts["coax shield"])
    assert {w for w, e in chosen.joins[2].ends} <= starts["coax centre"]


def test_a_tapped_winding_without_a_primary_wire_has_its_tap():
    assert (("long", TAP),) in [j.ends for j in joins_of(wiring("tapped"), primary_wire=False)]
    with pytest.raises(OutOfDomainError, match="a wire of its own for separate windings"):
        joins_of(wiring("separate"), primary_wire=False)
    with pytest.raises(NotFoundError, match="no wiring “knitted”"):
        wiring("knitted")
