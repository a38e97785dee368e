"""What goes wrong while winding, a file a fault: each says what then lies on the bench in place of the plan.

Whoever adds one writes its file, its row here, its code in `core.finding`, and its words on the page.
"""

from collections.abc import Callable

from yielding_coil.core.bench.faults.bucking import bucking
from yielding_coil.core.bench.faults.capacitor import capacitor
from yielding_coil.core.bench.faults.cracked_core import cracked_core
from yielding_coil.core.bench.faults.other_core import other_core
from yielding_coil.core.bench.faults.other_turns import other_turns
from yielding_coil.core.bench.faults.resistor_off import resistor_off
from yielding_coil.core.bench.faults.reversed_wire import reversed_wire
from yielding_coil.core.bench.faults.shorted_turn import shorted_turn
from yielding_coil.core.bench.faults.tap import tap
from yielding_coil.core.bench.faults.turn_count import turn_count
from yielding_coil.core.bench.faults.value_off import value_off
from yielding_coil.core.bench.hypothesis import Hypothesis
from yielding_coil.core.bench.planned import Planned

FAULTS: tuple[Callable[[Planned], list[Hypothesis]], ...] = (
    turn_count,
    tap,
    reversed_wire,
    bucking,
    other_core,
    shorted_turn,
    capacitor,
    other_turns,
    cracked_core,
    value_off,
    resistor_off,
)
