"""The antenna of a design: sweeps never change, so those read lately are kept at hand."""

from collections import OrderedDict
from threading import Lock
from uuid import UUID

from fastapi import FastAPI, Request
from sqlalchemy.orm import Session

from yielding_coil.core.sweep import Sweep, SwrSweep
from yielding_coil.core.system import Antenna
from yielding_coil.core.target import require_inside
from yielding_coil.documents.design import DesignContent
from yielding_coil.store.sweeps import SwrOnlyError, one_sweep, sweep_of

_MOST = 32


class Antennas:
    """Core sweeps by id, the last 32."""

    def __init__(self) -> None:
        self._known: OrderedDict[UUID, Sweep | SwrSweep] = OrderedDict()
        self._lock = Lock()

    def sweep(self, app: FastAPI, sweep_id: UUID) -> Sweep:
        """A kept sweep that carries an impedance; any other one is refused."""
        found = self.sweep_of(app, sweep_id)
        if not isinstance(found, Sweep):
            raise SwrOnlyError("the sweep")
        return found

    def sweep_of(self, app: FastAPI, sweep_id: UUID) -> Sweep | SwrSweep:
        """A kept sweep as the core takes it; opens a session of its own only when it has to read.

        What hangs on a sweep reads it also where it lies in the bin.
        """
        with self._lock:
            known = self._known.get(sweep_id)
            if known is not None:
                self._known.move_to_end(sweep_id)
                return known
        with Session(app.state.engine) as session:
            found = sweep_of(one_sweep(session, sweep_id, deleted=True))
        with self._lock:
            self._known[sweep_id] = found
            if len(self._known) > _MOST:
                self._known.popitem(last=False)
        return found


def antenna_of(request: Request, content: DesignContent) -> Antenna:
    """The antenna that a design hangs below, known over all its targets."""
    return antenna_known_to(request.app, content)


def antenna_known_to(app: FastAPI, content: DesignContent) -> Antenna:
    """The same, away from any request: for a job."""
    antennas: Antennas = app.state.antennas
    antenna = content.core_antenna(lambda sweep_id: antennas.sweep(app, sweep_id))
    if isinstance(antenna, Sweep):
        require_inside(content.core_targets(), antenna)
    return antenna
