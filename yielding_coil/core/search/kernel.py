"""Many networks at once: tables of parts carried through a cascade, in blocks that fit the cache.

Everything is told over 50 Ω. A table holds one kind of part at one place: rows are parts, columns frequencies.
A network is a row of each of its tables; its number is that of the rows in mixed radix, the last table fastest.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.element import Part
from yielding_coil.core.line import Line
from yielding_coil.core.system import Place
from yielding_coil.core.transformer import Transformer

REFERENCE_OHM = 50.0
# Numbers of one block of an array: small enough for a core's own cache.
BLOCK = 1 << 14
# Rows of a stage that are held at once.
ROWS = 1 << 14

Ints = npt.NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class Table:
    """Parts of one place over frequency: impedance in series, admittance across, ABCD passed through; over 50 Ω.

    Args:
        place: where they go.
        values: shape (parts, n) complex; passed through (4, parts, n).
    """

    place: Place
    values: Complex

    @property
    def parts(self) -> int:
        """How many there are."""
        return int(self.values.shape[-2])

    @classmethod
    def of(cls, place: Place, parts: Sequence[Part], frequency_hz: Real) -> "Table":
        """From parts as the core has them."""
        if place == "through":
            found = [p.chain(frequency_hz) for p in parts if isinstance(p, Line | Transformer)]
            chains: Complex = np.asarray(found, dtype=np.complex128)
            chains = np.moveaxis(chains.reshape(len(parts), 4, -1), 1, 0)
            scale = np.array([1.0, 1 / REFERENCE_OHM, REFERENCE_OHM, 1.0]).reshape(4, 1, 1)
            return cls(place, np.ascontiguousarray(chains * scale))
        if place == "series":
            rows = [p.impedance_ohm(frequency_hz) / REFERENCE_OHM for p in parts]  # type: ignore[union-attr]
        else:
            rows = [p.admittance_s(frequency_hz) * REFERENCE_OHM for p in parts]  # type: ignore[union-attr]
        return cls(place, np.array(rows, dtype=complex).reshape(len(parts), -1))

    def row(self, index: Ints) -> Complex:
        """Some of its parts."""
        return self.values[..., index, :]


class Judged(NamedTuple):
    """A block of networks: the number of the first, and (1 − |Γ|²)/4 turned over at its worst on each target.

    `badness` is (1 + |z|² + 2·Re z)/Re z, shape (networks, targets): |Γ|² = 1 − 4/badness.
    """

    first: int
    badness: Real


def reflection_squared(badness: Real) -> Real:
    """|Γ|² of what `Judged` holds; 1 where no power goes in."""
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(badness > 0, np.maximum(1 - 4 / badness, 0.0), 1.0)


def judge(antenna: Complex, tables: Sequence[Table], targets: int) -> Iterator[Judged]:
    """Every network there is, block by block, each network once.

    Args:
        antenna: impedance over 50 Ω, shape (n,), every target's frequencies in turn, as many for each.
        tables: from the antenna down; none for the antenna as it is.
        targets: how many there are.

    Source:
        |Γ|² = 1 − 4r/((r + 1)² + x²), from Γ = (z − 1)/(z + 1) (Pozar, Microwave Engineering, §2.3).
    """
    z = np.asarray(antenna, dtype=complex).reshape(1, -1)
    if not tables:
        yield Judged(0, _badness(z, targets))
        return
    *above, last = tables
    most = max(1, BLOCK // max(last.parts * z.shape[1], 1))
    for first, seen in _stages(z, above):
        for k in range(0, len(seen), most):
            part = seen[k : k + most]
            for offset, badness in _finish(part, last, targets):
                yield Judged((first + k) * last.parts + offset, badness)


def _stages(z: Complex, tables: Sequence[Table]) -> Iterator[tuple[int, Complex]]:
    """What is seen below all tables but the last: chunks of rows, with the number of the first."""
    if not tables:
        yield 0, z
        return
    *above, last = tables
    most = max(1, ROWS // last.parts)
    for first, seen in _stages(z, above):
        for k in range(0, len(seen), most):
            through = _carry(seen[k : k + most, np.newaxis], last)
            yield (first + k) * last.parts, through.reshape(-1, z.shape[1])


def _carry(z: Complex, table: Table) -> Complex:
    """Through every part of a table: shape (rows, 1, n) becomes (rows, parts, n)."""
    return step(z, table.place, table.values[..., np.newaxis, :, :])


def step(z: Complex, place: Place, values: Complex) -> Complex:
    """Through a part, broadcast."""
    if place == "series":
        return z + values
    if place == "shunt":
        return z / (1 + z * values)
    a, b, c, d = values
    return np.asarray((a * z + b) / (c * z + d))


def _finish(seen: Complex, table: Table, targets: int) -> Iterator[tuple[int, Real]]:
    """The last part of every network, and how bad each is; a part in series or across is but a sum."""
    if table.place == "through":
        most = max(1, BLOCK // seen.shape[1])
        for row in range(len(seen)):
            for k in range(0, table.parts, most):
                z = step(seen[row], "through", table.values[:, k : k + most])
                yield row * table.parts + k, _badness(z, targets)
        return
    # Γ of an admittance over 50 Ω is that of an impedance turned over: the same size.
    of = seen if table.place == "series" else 1 / seen
    real, imaginary = np.ascontiguousarray(of.real), np.ascontiguousarray(of.imag)
    more_r, more_x = np.ascontiguousarray(table.values.real), np.ascontiguousarray(table.values.imag)
    n = of.shape[1]
    most = max(1, BLOCK // n)
    if table.parts <= most:
        badness = _sums(real[:, np.newaxis], imaginary[:, np.newaxis], more_r, more_x, targets)
        yield 0, badness.reshape(-1, targets)
        return
    for row in range(len(of)):
        for k in range(0, table.parts, most):
            part = slice(k, k + most)
            yield row * table.parts + k, _sums(real[row], imaginary[row], more_r[part], more_x[part], targets)


def _sums(r: Real, x: Real, more_r: Real, more_x: Real, targets: int) -> Real:
    whole_r = r + more_r
    whole_x = x + more_x
    whole_x *= whole_x
    with np.errstate(divide="ignore", invalid="ignore"):
        size = whole_r + 1
        size *= size
        size += whole_x
        size /= whole_r
    return _worst(size, targets)


def _badness(z: Complex, targets: int) -> Real:
    r = z.real
    with np.errstate(divide="ignore", invalid="ignore"):
        return _worst(((r + 1) ** 2 + z.imag**2) / r, targets)


def _worst(size: Real, targets: int) -> Real:
    """The worst on each target; endless where a resistance is not above zero."""
    shaped = size.reshape(*size.shape[:-1], targets, -1)
    worst = shaped.max(axis=-1)
    least = shaped.min(axis=-1)
    worst[~(least > 0)] = math.inf
    return worst


def numbers_of(index: Ints, tables: Sequence[Table]) -> list[Ints]:
    """The rows that networks take of each table, by their numbers."""
    rows: list[Ints] = []
    for table in reversed(tables):
        rows.append(index % table.parts)
        index = index // table.parts
    return rows[::-1]


class Carried(NamedTuple):
    """What networks carry at one watt into the radio's end; shape (networks,) and (parts, networks).

    Losses are of the worst frequency, in dB for the whole, in watts for each part; voltages and currents peaks.
    """

    loss_db: Real
    lost_w: Real
    peak_v: Real
    peak_a: Real


def carry(antenna: Complex, tables: Sequence[Table], index: Ints) -> Carried:
    """What some networks carry.

    A line's voltage and current are those at its ends: of a section as long as a quarter wave they are the largest.

    Args:
        antenna: over 50 Ω, shape (n,).
        index: numbers of networks, shape (m,).
    """
    rows = numbers_of(index, tables)
    seen = [np.broadcast_to(np.asarray(antenna, dtype=complex), (len(index), len(antenna)))]
    picked = [table.row(row) for table, row in zip(tables, rows, strict=True)]
    for table, values in zip(tables, picked, strict=True):
        seen.append(step(seen[-1], table.place, values))
    with np.errstate(divide="ignore", invalid="ignore"):
        power = np.ones((len(index), len(antenna)))
        lost, volts, amperes = [], [], []
        for k in range(len(tables) - 1, -1, -1):
            above, below, values, place = seen[k], seen[k + 1], picked[k], tables[k].place
            near_a2 = 2 * power / below.real / REFERENCE_OHM
            near_v2 = near_a2 * np.abs(below) ** 2 * REFERENCE_OHM**2
            if place == "series":
                share = above.real / below.real
                carried_v2, carried_a2 = near_a2 * np.abs(values) ** 2 * REFERENCE_OHM**2, near_a2
            elif place == "shunt":
                share = (above.real / np.abs(above) ** 2) / (below.real / np.abs(below) ** 2)
                carried_v2, carried_a2 = near_v2, near_v2 * np.abs(values) ** 2 / REFERENCE_OHM**2
            else:
                ratio2 = np.abs(values[2] * above + values[3]) ** 2
                share = above.real / (ratio2 * below.real)
                far_a2 = near_a2 / ratio2
                carried_v2 = np.maximum(near_v2, far_a2 * np.abs(above) ** 2 * REFERENCE_OHM**2)
                carried_a2 = np.maximum(near_a2, far_a2)
            lost.append((power * (1 - share)).max(axis=1, initial=0.0))
            volts.append(np.sqrt(carried_v2.max(axis=1)))
            amperes.append(np.sqrt(carried_a2.max(axis=1)))
            power = power * share
        loss_db = (-10 * np.log10(power)).max(axis=1) if tables else np.zeros(len(index))
    shape = (0, len(index))
    return Carried(
        np.nan_to_num(np.maximum(loss_db, 0.0), nan=math.inf),
        np.array(lost[::-1]).reshape(-1, len(index)) if lost else np.zeros(shape),
        np.array(volts[::-1]).reshape(-1, len(index)) if lost else np.zeros(shape),
        np.array(amperes[::-1]).reshape(-1, len(index)) if lost else np.zeros(shape),
    )


def judge_rows(antenna: Complex, tables: Sequence[Table], targets: int) -> Real:
    """Networks given row by row, the first of every table together and so on; shape (rows, targets) as `Judged`."""
    z = np.asarray(antenna, dtype=complex).reshape(1, -1)
    for table in tables:
        z = step(z, table.place, table.values)
    return _badness(np.asarray(z), targets)
