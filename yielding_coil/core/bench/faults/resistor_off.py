"""A resistor on the bench that is not what was typed."""

from yielding_coil.core.bench.hypothesis import Hypothesis
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.transformer import Transformer

# Two standard deviations: carbon that drifted, the wrong band of colour.
OFF = 0.4
# Seldom, where one types what one measured.
OFTEN = 0.3


def resistor_off(planned: Planned) -> list[Hypothesis]:
    """Of everything that stands on a resistor: the winding is right."""
    if not isinstance(planned.part, Transformer):
        return []
    return [
        Hypothesis("resistor_off", planned.part, planned.own, weight=OFTEN, shaped=planned.shaped, load_doubt=OFF)
    ]
