"""What to know of a design, the voltage that occurs at full power first."""

import numpy as np

from yielding_coil.core.design.prediction import Evaluation
from yielding_coil.core.finding import DesignCode, Finding

# From here on a touch burns (common practice).
BURNS_V = 50.0


def design_findings(found: Evaluation) -> list[Finding[DesignCode]]:
    """Where the largest voltage above the line occurs, and what there is to say of each element."""
    volts = [float(np.nanmax(s.voltage_v, initial=0.0)) for s in found.judged[: found.box + 1]]
    where = int(np.argmax(volts))
    highest = Finding[DesignCode](
        "rf_voltage",
        {
            "voltage_v": volts[where],
            "power_w": found.power_w,
            "at": found.judged[where].key,
            "burns": "yes" if volts[where] >= BURNS_V else "no",
        },
    )
    each = [f for k, element in enumerate(found.design.elements) for f in element.findings(found.at_work(k))]
    return [highest, *each]
