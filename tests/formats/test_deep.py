"""Ten thousand damaged files: each is read right or refused, none crashes, none is half kept."""

import io
import re
import warnings
from pathlib import Path

import numpy as np
import pytest
import skrf
from client_helpers import drop
from sqlalchemy import text

from yielding_coil.core.errors import RefusedError
from yielding_coil.core.sweep import HIGHEST_REFLECTION, Sweep, SwrSweep
from yielding_coil.formats import files, table, touchstone

pytestmark = pytest.mark.deep

DEMO = Path(__file__).parents[2] / "yielding_coil" / "demo"
# Bits of files that mean something, to be put where they do not belong.
BITS = [
    *(b"#", b"!", b"[", b"]", b"\n", b"\r\n", b" ", b"\t", b",", b";", b"-", b".", b"e999", b"nan", b"inf", b"_"),
    *(b"# GHz S DB R 75", b"[Version] 2.0", b"[End]", b"R", b"MHz", b"|Z|", b'"', b"\0", b"\xff", b"\xef\xbb\xbf"),
    *("Ω".encode(), "Γ".encode(), b"1e308", b"0", b"-1", b"1e-320", b"[Number of Ports] 2", b"S", b"Z", b"Y"),
]


def seeds():
    """Small files of every kind that is read."""
    sweep = touchstone.read((DEMO / "allotment-feedpoint.s1p").read_bytes())
    few = Sweep(sweep.frequency_hz[::8], sweep.impedance_ohm[::8])
    z = few.impedance_ohm
    rows = [(f / 1e6, v.real, v.imag) for f, v in zip(few.frequency_hz, z, strict=True)]
    return [
        touchstone.write(few),
        b"# MHz Z RI R 1\n" + b"".join(b"%f %f %f\n" % row for row in rows),
        b"[Version] 2.0\n# MHz Z RI R 75\n[Number of Ports] 1\n"
        + b"[Number of Frequencies] %d\n[Network Data]\n" % len(rows)
        + b"".join(b"%f %f %f\n" % row for row in rows)
        + b"[End]\n",
        b"# MHz S RI R 50\n" + b"".join(b"%f 0.1 0.2 0 0 0 0 0 0\n" % row[0] for row in rows),
        table.write(few),
        b"MHz;SWR\r\n" + b"".join(b"%.3f;%.3f\r\n" % (row[0], 1 + k) for k, row in enumerate(rows)),
    ]


def as_scikit_rf(data):
    """The same bytes by scikit-rf's own reader; None where it does not take them."""
    try:
        text = io.StringIO(data.decode("utf-8"))
        text.name = "mutant.s1p"
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            found = skrf.Network(text)
        return found if found.nports == 1 and found.f.size else None
    except Exception:
        return None


def mutant(rng, data):
    """One to three blows: a digit or a byte changed, some cut out or doubled, a bit put in, the end cut off."""
    damaged = bytearray(data)
    for _ in range(int(rng.integers(1, 4))):
        at = int(rng.integers(0, max(1, len(damaged))))
        to = min(len(damaged), at + int(rng.integers(1, 12)))
        blow = int(rng.choice(6, p=[0.45, 0.12, 0.1, 0.2, 0.03, 0.1]))
        if blow == 0:
            digits = [i for i, c in enumerate(damaged) if chr(c).isdigit()]
            if digits:
                damaged[digits[int(rng.integers(0, len(digits)))]] = ord("0") + int(rng.integers(0, 10))
        elif blow == 5 and damaged:
            damaged[at % len(damaged)] = int(rng.integers(0, 256))
        elif blow == 1:
            del damaged[at:to]
        elif blow == 2:
            damaged[at:at] = damaged[at:to]
        elif blow == 3:
            damaged[at:at] = BITS[int(rng.integers(0, len(BITS)))]
        else:
            del damaged[at + int(rng.integers(0, 200)) :]
    return bytes(damaged)


def test_ten_thousand_mutants():
    """Read right: what is found keeps every promise that a sweep makes, and is found again when written."""
    rng = np.random.default_rng(20261123)
    kinds = seeds()
    read = refused = compared = apart = 0
    for k in range(10_000):
        data = mutant(rng, kinds[k % len(kinds)])
        try:
            found = files.read(data, "wire.s1p" if k % 3 == 1 else "", "S11" if k % 2 else None).found
        except RefusedError:
            refused += 1
            continue
        read += 1
        theirs = as_scikit_rf(data)
        # “R75” written together is read here; scikit-rf drops it and takes 50.
        if theirs is not None and isinstance(found, Sweep) and not re.search(rb"R\d", data):
            compared += 1
            ours = found.reflection(float(theirs.z0[0, 0].real))
            same = theirs.f.shape == found.frequency_hz.shape and np.allclose(theirs.f, found.frequency_hz)
            apart += not (same and np.allclose(theirs.s[:, 0, 0], ours, atol=1e-6))
        assert (np.diff(found.frequency_hz) > 0).all()
        assert found.frequency_hz[0] > 0
        if isinstance(found, SwrSweep):
            assert (found.swr >= 1).all()
            again = table.read(table.write_readings(found)).found
            assert again.swr == pytest.approx(found.swr, rel=1e-5)
            continue
        assert np.isfinite(found.impedance_ohm).all()
        assert (np.abs(found.reflection()) <= 1.5 * HIGHEST_REFLECTION).all()  # against 50, whatever its own was
        again = touchstone.read(touchstone.write(found)) if np.abs(found.reflection()).max() <= 1.05 else found
        assert np.abs(again.reflection() - found.reflection()).max() < 1e-9
    print(f"{read} read, {refused} refused; {compared} read by scikit-rf too, {apart} of them otherwise")
    assert apart == 0
    assert compared > 500
    assert read > 1000
    assert refused > 1000


def test_what_is_refused_leaves_nothing_behind(client, engine):
    """Over HTTP, five hundred of them: a row for each that was read, and none else."""
    rng = np.random.default_rng(20261124)
    kinds = seeds()
    kept = 0
    for k in range(500):
        answer = drop(client, mutant(rng, kinds[k % len(kinds)]), "wire")
        assert answer.status_code in (201, 422)
        kept += answer.status_code == 201
    with engine.connect() as connection:
        assert connection.execute(text("SELECT count(*) FROM sweeps")).scalar() == kept
    assert kept > 50
