"""The log of a wire in stretches: what was read between two acts, under one set of conditions."""

import json
from dataclasses import dataclass, field

from pydantic import BaseModel

from yielding_coil.api.dials import DialOut, carried
from yielding_coil.core.sweep import Sweep, SwrReadings
from yielding_coil.core.trim import ContradictionError, Dip, dip_in
from yielding_coil.core.wire import Hanging
from yielding_coil.documents.meter_reading import direct_dip
from yielding_coil.store.tables import Setup


def conditions_of(setup: Setup | None) -> str:
    """Plane, line and conditions as one text; the instrument does not move a dip."""
    if setup is None:
        return ""
    words = {name: said for name, said in (setup.conditions or {}).items() if said}
    return json.dumps([setup.plane, setup.line, words], sort_keys=True)


@dataclass
class Stretch:
    """The log between two acts, under one set of conditions."""

    hanging: Hanging
    conditions: str
    reads: list[BaseModel] = field(default_factory=list)
    sweeps: list[Sweep | SwrReadings] = field(default_factory=list)
    instruments: list[str] = field(default_factory=list)
    # The last dip found directly, in a sweep or by hand, and the one that points add up to.
    dips: list[Dip] = field(default_factory=list)
    problem: ContradictionError | None = None
    dial: DialOut | None = None

    def look(self, near_hz: float) -> None:
        """What its readings say."""
        try:
            self.dips = [dip_in(sweep, near_hz) for sweep in self.sweeps]
            if self.reads:
                self.dial, together = carried(self.reads)
                # Each dip found by hand is one of its own; points add up to one.
                each = [d for read in self.reads if (d := direct_dip(read)) is not None and d.side == "found"]
                self.dips += each or ([together] if together is not None else [])
        except ContradictionError as problem:
            self.problem = problem

    @property
    def found(self) -> list[Dip]:
        """The dips that were found."""
        return [dip for dip in self.dips if dip.side == "found"]
