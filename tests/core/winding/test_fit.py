"""What goes into which box."""

from dataclasses import dataclass

import pytest

from yielding_coil import data
from yielding_coil.core.ring import Ring
from yielding_coil.core.winding import WindingLayout, fits_box, strands_of
from yielding_coil.core.winding.fit import coil_fit, ring_fit


@dataclass(frozen=True)
class Tin:
    width_m: float
    height_m: float
    depth_m: float
    key: str = "tin"
    name: str = "a tin"


@pytest.mark.parametrize(
    ("box", "fits"),
    [
        (Tin(0.07, 0.07, 0.02), True),
        (Tin(0.07, 0.05, 0.02), False),
        (Tin(0.07, 0.07, 0.009), False),
        (Tin(0.06, 0.06, 0.01), True),
    ],
)
def test_a_round_thing_lies_flat_or_stands_along_a_tube(box, fits):
    assert fits_box(0.06, 0.01, box) is fits


def test_a_wound_ring_is_two_layers_of_wire_thicker_all_round_and_two_are_twice_as_high():
    ring = Ring(data.ring_material("43"), data.ring_size("FT240"))
    layout = WindingLayout(ring, strands_of(("long",), 1, 2, 12), 1e-3, tape_m=0.5e-3)
    one, two = ring_fit(layout, []), ring_fit(layout, [], rings=2)

    assert one.outer_m == pytest.approx(ring.size.outer_m + 2 * (0.5e-3 + 2e-3))
    assert two.height_m == pytest.approx(2 * one.height_m)
    assert one.most_turns == ring.turns_that_fit(1e-3, 0.5e-3)
    assert [b.fits for b in coil_fit(0.03, 0.05, [Tin(0.1, 0.1, 0.1), Tin(0.02, 0.1, 0.1)]).boxes] == [True, False]
