"""Sweeps and predictions to and from scikit-rf: networks out of an archive, an archive out of networks.

    .venv/bin/python docs/networks.py orchard.zip          prints what is in it
    >>> networks = networks_of("orchard.zip")               a dict, name to skrf.Network
    >>> save_archive("mine.zip", {"loft": skrf.Network("loft.s1p")}, [("12 m", 24.89e6, 24.99e6)])

Needs scikit-rf beside the package; the application need not run.
"""

import hashlib
import json
import sys
import zipfile
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from pathlib import Path
from uuid import uuid4

import numpy as np
import skrf

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))  # the checkout, where the package is not installed

from yielding_coil.core import Sweep, evaluate
from yielding_coil.documents.design import read_content
from yielding_coil.formats import touchstone


def network_of(sweep: Sweep, name: str = "") -> skrf.Network:
    """A sweep as a one-port network against 50 ohms."""
    frequency = skrf.Frequency.from_f(sweep.frequency_hz, unit="hz")
    return skrf.Network(frequency=frequency, s=sweep.reflection().reshape(-1, 1, 1), z0=50.0, name=name)


def sweep_of(network: skrf.Network) -> Sweep:
    """A one-port network, of whatever reference, as a sweep."""
    if network.nports != 1:
        raise ValueError(f"{network.name or 'the network'} has {network.nports} ports; take one: network.s11")
    return Sweep(np.asarray(network.f, dtype=float), np.asarray(network.z[:, 0, 0], dtype=complex))


def networks_of(archive: str | Path) -> dict[str, skrf.Network]:
    """Every sweep of an archive that carries an impedance, by the build's name and its own."""
    found = {}
    with zipfile.ZipFile(archive) as parts:
        for build in json.loads(parts.read("archive.json"))["builds"]:
            for sweep in build.get("sweeps", []):
                if sweep.get("carries", "impedance") == "impedance":
                    name = f"{build['name']}: {sweep['name']}"
                    read = touchstone.read_file(parts.read(sweep["data"]["part"]))
                    found[name] = network_of(read.sweep, name)
    return found


def predicted_of(content: Mapping[str, object], sweep: Sweep, power_w: float = 100.0) -> dict[str, skrf.Network]:
    """What a design will show at each of its stations, looking up, over its sweep.

    Args:
        content: of a state of a design, as an archive has it.
        sweep: the antenna that it hangs below.
    """
    design = read_content(dict(content)).to_core(sweep)
    inside = sweep.frequency_hz
    stations = evaluate(design, power_w, inside).drawn
    return {s.key: network_of(Sweep(inside, s.impedance_ohm), s.key) for s in stations}


def save_archive(
    path: str | Path,
    networks: Mapping[str, skrf.Network],
    bands: Sequence[tuple[str, float, float]],
    limit: float = 2.0,
) -> None:
    """An archive with a build for each network, to be taken in on the shelf.

    Args:
        bands: label, lower and upper edge in hertz of what the builds shall hold.
    """
    now = datetime.now(UTC).isoformat()
    targets = [{"label": label, "low_hz": low, "high_hz": high, "swr_limit": limit} for label, low, high in bands]
    builds, parts = [], {}
    for name, network in networks.items():
        data, key = touchstone.write_exact(sweep_of(network)), str(uuid4())
        part = f"sweeps/{key}.s1p"
        parts[part] = data
        file = {"part": part, "name": f"{name}.s1p", "sha256": hashlib.sha256(data).hexdigest()}
        sweep = {"id": key, "name": name, "swept_at": now, "data": file}
        build = {"id": str(uuid4()), "name": name, "made_at": now, "targets": targets, "sweeps": [sweep]}
        builds.append({**build, "baseline_sweep_id": key})
    contents = {"format": "yielding-coil-archive", "version": 1, "made_at": now, "builds": builds}
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        for part, data in parts.items():
            archive.writestr(part, data)
        archive.writestr("archive.json", json.dumps(contents, indent=1))


if __name__ == "__main__":
    for title, found in networks_of(sys.argv[1]).items():
        best = found.s_mag[:, 0, 0].argmin()
        swr = found.s_vswr[best, 0, 0]
        print(f"{title}: {len(found.f)} points, lowest SWR {swr:.2f} at {found.f[best] / 1e6:.3f} MHz")
