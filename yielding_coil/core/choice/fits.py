"""How each school hangs at a place for some bands, by its numbers of the trade: nothing is solved here.

A school that does not fit says what stands in its way. Who adds one writes a function and a row of `SCHOOLS`.
"""

import contextlib
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from yielding_coil.core.antenna import far_under, pair_of, windows, zones_by_rule
from yielding_coil.core.choice.place import FEED_M, Obstacle, Place
from yielding_coil.core.errors import OutOfDomainError, RefusedError
from yielding_coil.core.target import Target
from yielding_coil.core.wire import KINDS, Hung, line_estimate_h, wave_m

# A V opens from its usual angle until its ends hang clear; wider than this it is a level dipole.
USUAL_ANGLE, WIDEST_ANGLE = 120.0, 170.0
# What slopes rises by so much of its length at least.
STEEP = 0.3
# Shorter than so much of a quarter-wave nobody loads a wire (common practice: what is lost is most of it).
LEAST_LOADED = 0.16
# A coil apart serves bands so far apart; a vertical of its own a quarter-wave as long.
APART = (1.5, 2.6)
QUARTER, RADIAL = 0.242, 0.24
# The sleeve's lower end over the ground, and raised radials over it.
SLEEVE_BASE_M, RADIALS_M = 1.5, 0.6
# A wire of any length is no longer than anybody hangs, its counterpoise a twentieth of the lowest band's wave.
LONGEST_M, COUNTERPOISE = 80.0, 0.05
# So far from both ends of its window a length is clear enough.
ENOUGH = 0.035
SMALL_H = 5e-7
# From so much of a quarter-wave on a wire needs no coil and no hat.
NO_NEED = 0.93


@dataclass(frozen=True, slots=True)
class Fit:
    """A school as it hangs, not brought to its bands yet.

    Args:
        key: of the school; kind_key: of the antenna.
        hungs: one for each band; the same one where one antenna serves them all.
        walks: whether one walks to it to change the band.
        height_m, span_m: what of the place it takes.
    """

    key: str
    kind_key: str
    hungs: tuple[Hung, ...]
    walks: bool
    height_m: float
    span_m: float


def _obstacle(code: Any, needs: float, there: float) -> Obstacle | None:
    return Obstacle(code, needs, there) if needs > there + 1e-9 else None


def _first(*found: Obstacle | None) -> Obstacle | None:
    return next((each for each in found if each is not None), None)


def _lowest(targets: Sequence[Target]) -> Target:
    return min(targets, key=lambda t: t.center_hz)


def _start(key: str, place: Place, target: Target, targets: Sequence[Target] = ()) -> Hung:
    """In numbers of the trade, in the place's wire over its soil."""
    kind = KINDS[key]
    pair = pair_of(kind, target, [t for t in targets if t is not target])
    usual = kind.start(target.center_hz) if pair is None or kind.start_for is None else kind.start_for(*pair)
    return kind.made(usual.numbers, place.stock, place.soil)


Fitted = tuple[tuple[Hung, ...], float, float] | Obstacle
Fitting = Callable[[Place, Sequence[Target]], Fitted]


def _all(hung: Hung, targets: Sequence[Target], height_m: float, span_m: float) -> Fitted:
    return (hung,) * len(targets), height_m, span_m


def _dipole(key: str) -> Fitting:
    def fit(place: Place, targets: Sequence[Target]) -> Fitted:
        hung = _start(key, place, _lowest(targets), targets)
        whole = 2 * max(hung.reaches_m)
        stands = _first(
            _obstacle("supports", 2, 1 + (place.other_m > 0)), _obstacle("span", whole, place.between_m)
        )
        if stands:
            return stands
        return _all(hung.told(height_m=place.level_m), targets, place.level_m, whole)

    return fit


def _v(place: Place, target: Target) -> Hung | Obstacle:
    hung = _start("inverted-v", place, target)
    leg, fall = hung.trimmed_m, place.top_m - place.clear_m
    if fall <= 0:
        return Obstacle("height", place.clear_m, place.top_m)
    half = math.acos(min(fall / leg, math.cos(math.radians(USUAL_ANGLE / 2))))
    if math.degrees(2 * half) > WIDEST_ANGLE:
        return Obstacle("height", place.clear_m + leg * math.cos(math.radians(WIDEST_ANGLE / 2)), place.top_m)
    width = 2 * leg * math.sin(half)
    return _obstacle("span", width, place.reach_m) or hung.told(
        apex_m=place.top_m, angle_deg=math.degrees(2 * half)
    )


def _inverted_v(place: Place, targets: Sequence[Target]) -> Fitted:
    hung = _v(place, _lowest(targets))
    if isinstance(hung, Obstacle):
        return hung
    return _all(hung, targets, place.top_m, _wide(hung))


def _wide(hung: Hung) -> float:
    return 2 * hung.trimmed_m * math.sin(math.radians(hung.numbers["angle_deg"] / 2))


def _linked_v(place: Place, targets: Sequence[Target]) -> Fitted:
    if len(targets) < 2:
        return Obstacle("bands", 2, len(targets))
    longest = _v(place, _lowest(targets))
    if isinstance(longest, Obstacle):
        return longest
    angle = longest.numbers["angle_deg"]
    hungs = tuple(_start("inverted-v", place, t).told(apex_m=place.top_m, angle_deg=angle) for t in targets)
    return hungs, place.top_m, _wide(longest)


def _sloping(place: Place, targets: Sequence[Target]) -> Fitted:
    hung = _start("sloping-dipole", place, _lowest(targets))
    whole, fall = 2 * hung.trimmed_m, place.top_m - place.clear_m
    level = math.sqrt(max(0.0, whole**2 - fall**2))
    stands = _first(
        _obstacle("height", place.clear_m + 0.3 * whole, place.top_m), _obstacle("span", level, place.reach_m)
    )
    if stands:
        return stands
    # Steeper than it is long it would hang straight down.
    high = min(place.top_m, place.clear_m + 0.95 * whole)
    return _all(hung.told(high_m=high, low_m=place.clear_m), targets, high, level)


def _loaded_dipole(place: Place, targets: Sequence[Target]) -> Fitted:
    low = _lowest(targets)
    quarter = wave_m(low.center_hz) / 4
    if place.between_m >= NO_NEED * 2 * quarter:
        return Obstacle("tall", 2 * quarter, place.between_m)
    least = 2 * LEAST_LOADED * quarter
    stands = _first(_obstacle("supports", 2, 1 + (place.other_m > 0)), _obstacle("span", least, place.between_m))
    if stands:
        return stands
    leg = place.between_m / 2
    hung = _start("loaded-dipole", place, low).told(leg_m=leg, height_m=place.level_m, **_coil_for(place, low, leg))
    return _all(hung, targets, place.level_m, place.between_m)


def _end_fed(place: Place, targets: Sequence[Target]) -> Fitted:
    hung = _start("end-fed", place, _lowest(targets))
    whole = hung.trimmed_m
    feed = min(FEED_M, place.top_m)
    far = min(place.top_m, feed + 0.95 * whole)
    level = math.sqrt(max(0.0, whole**2 - (far - feed) ** 2))
    stands = _first(_obstacle("height", place.clear_m, place.top_m), _obstacle("span", level, place.reach_m))
    return stands or _all(hung.told(feed_m=feed, far_m=far), targets, far, level)


def _any_length(place: Place, targets: Sequence[Target]) -> Fitted:
    low = _lowest(targets)
    rise = max(0.0, place.top_m - FEED_M)
    most = min(math.hypot(place.reach_m, rise), LONGEST_M)
    least = next(m for m in (0.1 * k for k in range(10, 10_000)) if not far_under(m, targets))
    if most <= least:
        return Obstacle("length", least, most)
    zones = [*zones_by_rule("practice", targets, most), *zones_by_rule("long-wire", targets, most)]
    clear = windows(zones, least, most)
    if not clear:
        return Obstacle("length", least, most)
    # More wire radiates more: the longest that is clear enough, else the one that is clearest.
    length = round(max((w.best_m for w in clear if w.share >= ENOUGH), default=clear[0].best_m), 2)
    far = min(place.top_m, FEED_M + 0.95 * length)
    level = math.sqrt(length**2 - (far - FEED_M) ** 2)
    hung = _start("any-length", place, low).told(
        wire_m=length, counterpoise_m=round(COUNTERPOISE * wave_m(low.center_hz), 2), feed_m=FEED_M, far_m=far
    )
    return _all(hung, targets, far, level)


def _on_ground(place: Place, needs_m: float) -> Obstacle | None:
    return _first(
        None if place.is_pole else Obstacle("pole", 1, 0),
        None if place.on_ground else Obstacle("radials", 1, 0),
        _obstacle("height", needs_m, place.top_m),
    )


def _vertical(key: str, tall: Callable[[Hung], float]) -> Fitting:
    def fit(place: Place, targets: Sequence[Target]) -> Fitted:
        hung = _start(key, place, _lowest(targets), targets)
        return _on_ground(place, tall(hung)) or _all(hung, targets, tall(hung), 0.0)

    return fit


def _two_bands(fit: Fitting) -> Fitting:
    def both(place: Place, targets: Sequence[Target]) -> Fitted:
        if len(targets) < 2:
            return Obstacle("bands", 2, len(targets))
        with contextlib.suppress(RefusedError):
            return fit(place, targets)
        return Obstacle("apart", 2, 1)

    return both


def _coil_apart(place: Place, targets: Sequence[Target]) -> Fitted:
    pair = pair_of(KINDS["coil-isolated-vertical"], _lowest(targets), targets)
    assert pair is not None
    if not APART[0] <= pair[0] / pair[1] <= APART[1]:
        return Obstacle("apart", APART[0], pair[0] / pair[1])
    return _vertical("coil-isolated-vertical", lambda h: h.trimmed_m)(place, targets)


def _coil_for(place: Place, low: Target, wire_m: float) -> dict[str, float]:
    """Half-way out, by the line estimate; a small one where that gives none, of a wire that hardly needs it."""
    try:
        henry = line_estimate_h(low.center_hz, wire_m / 2, wire_m / 2, place.stock.radius_m)
    except OutOfDomainError:
        henry = SMALL_H
    return {"coil_at": 0.5, "inductance_h": max(henry, SMALL_H)}


def _short(key: str) -> Fitting:
    def fit(place: Place, targets: Sequence[Target]) -> Fitted:
        low = _lowest(targets)
        quarter = wave_m(low.center_hz) / 4
        stands = _on_ground(place, LEAST_LOADED * quarter)
        if stands:
            return stands
        if place.top_m >= NO_NEED * quarter:
            return Obstacle("tall", quarter, place.top_m)
        coil = key == "loaded-vertical"
        more = _coil_for(place, low, place.top_m) if coil else {"spoke_m": quarter - place.top_m}
        hung = _start(key, place, low).told(height_m=place.top_m, **more)
        return _all(hung, targets, place.top_m, 0.0)

    return fit


def _raised(place: Place, targets: Sequence[Target]) -> Fitted:
    wave = wave_m(_lowest(targets).center_hz)
    tall, radial = RADIAL * wave, RADIAL * wave
    stands = _first(
        None if place.is_pole else Obstacle("pole", 1, 0),
        _obstacle("height", tall + place.clear_m, place.top_m),
        _obstacle("span", radial, place.reach_m),
    )
    if stands:
        return stands
    base = min(place.top_m - tall, RADIALS_M + radial * math.sin(math.radians(45)))
    droop = math.degrees(math.asin(min(0.7, max(0.0, (base - place.clear_m) / radial))))
    hung = _start("raised-vertical", place, _lowest(targets)).told(
        height_m=tall, radial_m=radial, base_m=base, droop_deg=droop
    )
    return _all(hung, targets, tall + base, 2 * radial)


def _sleeve(place: Place, targets: Sequence[Target]) -> Fitted:
    hung = _start("sleeve-dipole", place, _lowest(targets)).told(base_m=SLEEVE_BASE_M)
    tall = SLEEVE_BASE_M + sum(hung.numbers[name] for name in ("whip_m", "sleeve_m"))
    stands = _first(None if place.is_pole else Obstacle("pole", 1, 0), _obstacle("height", tall, place.top_m))
    return stands or _all(hung, targets, tall, 0.0)


def _loop(key: str, corners: int) -> Fitting:
    def fit(place: Place, targets: Sequence[Target]) -> Fitted:
        hung = _start(key, place, _lowest(targets), targets).told(low_m=place.clear_m)
        side = max(hung.reaches_m) / corners
        tall = place.clear_m + side * (math.sqrt(3) / 2 if corners == 3 else 1.0)
        two = corners == 4
        stands = _first(
            _obstacle("supports", 2, 1 + (place.other_m > 0)) if two else None,
            _obstacle("height", tall, place.level_m if two else place.top_m),
            _obstacle("span", side, place.between_m if two else place.reach_m),
        )
        return stands or _all(hung, targets, tall, side)

    return fit


def _number(name: str) -> Callable[[Hung], float]:
    return lambda hung: hung.numbers[name]


@dataclass(frozen=True, slots=True)
class School:
    """A way to come to an antenna: which kind, how it hangs, and whether one walks to it to change the band."""

    key: str
    kind_key: str
    fit: Fitting
    walks: bool = False


SCHOOLS: Mapping[str, School] = {
    school.key: school
    for school in (
        School("dipole", "dipole", _dipole("dipole")),
        School("inverted-v", "inverted-v", _inverted_v),
        School("linked-v", "inverted-v", _linked_v, walks=True),
        School("sloping-dipole", "sloping-dipole", _sloping),
        School("end-fed", "end-fed", _end_fed),
        School("any-length", "any-length", _any_length),
        School("trap-dipole", "trap-dipole", _two_bands(_dipole("trap-dipole"))),
        School("fan-dipole", "fan-dipole", _two_bands(_dipole("fan-dipole"))),
        School("loaded-dipole", "loaded-dipole", _loaded_dipole),
        School("vertical", "vertical", _vertical("vertical", _number("height_m"))),
        School("raised-vertical", "raised-vertical", _raised),
        School("five-eighths", "five-eighths", _vertical("five-eighths", _number("height_m"))),
        School("loaded-vertical", "loaded-vertical", _short("loaded-vertical")),
        School("hat-vertical", "hat-vertical", _short("hat-vertical")),
        School("coil-isolated-vertical", "coil-isolated-vertical", _two_bands(_coil_apart)),
        School(
            "trap-vertical",
            "trap-vertical",
            _two_bands(_vertical("trap-vertical", lambda h: h.trimmed_m)),
        ),
        School("sleeve-dipole", "sleeve-dipole", _sleeve),
        School("triangle", "triangle", _loop("triangle", 3)),
        School("square", "square", _loop("square", 4)),
        School("nested-loops", "nested-loops", _two_bands(_loop("nested-loops", 4))),
    )
}


def fit_of(key: str, place: Place, targets: Sequence[Target]) -> Fit | Obstacle:
    """How a school hangs at a place for some bands, or what stands in its way.

    Raises:
        OutOfDomainError: no band.
    """
    if not targets:
        raise OutOfDomainError("bands", "none", "at least one")
    school = SCHOOLS[key]
    found = school.fit(place, targets)
    if isinstance(found, Obstacle):
        return found
    hungs, height, span = found
    return Fit(key, school.kind_key, hungs, school.walks, height, span)


def wishes_to_drop(place: Place, targets: Sequence[Target]) -> tuple[str, ...]:
    """Where nothing fits: the bands without any of which something does, by their labels, the lowest first."""
    found = []
    for target in sorted(targets, key=lambda t: t.center_hz):
        left = [t for t in targets if t is not target]
        if left and any(isinstance(fit_of(key, place, left), Fit) for key in SCHOOLS):
            found.append(target.label)
    return tuple(found)
