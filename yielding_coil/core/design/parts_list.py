"""How the parts of a design are made or bought, from the antenna down."""

from yielding_coil.core.design.prediction import Evaluation
from yielding_coil.core.element import PartToMake


def parts_list(found: Evaluation) -> list[PartToMake]:
    """How to make each element; peaks are the worst over the targets."""
    return [element.to_make(found.at_work(k)) for k, element in enumerate(found.design.elements)]
