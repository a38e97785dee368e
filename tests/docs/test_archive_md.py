"""The documentation of the archive, taken as it stands; and networks to and from it."""

import hashlib
import importlib.util
import io
import json
import re
import subprocess
import sys
import zipfile
from pathlib import Path

import jsonschema_rs
import numpy as np
import pytest
import skrf

from yielding_coil.documents.archive import read_archive
from yielding_coil.formats import touchstone

TOP = Path(__file__).parents[2]
SWEEP = (TOP / "yielding_coil" / "demo" / "allotment-feedpoint.s1p").read_bytes()


@pytest.fixture(scope="module")
def networks():
    spec = importlib.util.spec_from_file_location("networks", TOP / "docs" / "networks.py")
    found = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(found)
    return found


def by_hand():
    """The example of the document, zipped by hand."""
    text = (TOP / "docs" / "archive.md").read_text("utf-8")
    example = re.search(r"```json\n(.*?)```", text, re.DOTALL)[1].replace("SUM", hashlib.sha256(SWEEP).hexdigest())
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as archive:
        archive.writestr("archive.json", example)
        archive.writestr("sweeps/wire.s1p", SWEEP)
    return example, made.getvalue()


def test_one_written_by_hand_is_accepted(client):
    taken = client.post("/api/archives", content=by_hand()[1])
    assert taken.status_code == 201, taken.text
    (build,) = taken.json()["builds"]
    assert (build["name"], build["entries"], len(build["sweeps"])) == ("Wire by hand", 1, 1)
    sweep = build["sweeps"][0]["id"]
    assert client.get(f"/api/sweeps/{sweep}/original").content == SWEEP


def test_the_published_schema_takes_it_and_nothing_else():
    """By a general-purpose validator (jsonschema-rs), draft 2020-12."""
    published = json.loads((TOP / "docs" / "archive.schema.json").read_text("utf-8"))
    checker = jsonschema_rs.Draft202012Validator(published)
    example = json.loads(by_hand()[0])
    checker.validate(example)
    assert read_archive(example).builds[0].name == "Wire by hand"
    for wrong in ({"version": 2}, {"format": "other"}, {"more": 1}, {"builds": [{}]}):
        assert not checker.is_valid({**example, **wrong})


def test_networks_out_of_an_archive_and_back(networks, client, tmp_path):
    path = tmp_path / "hand.zip"
    path.write_bytes(by_hand()[1])
    (network,) = networks.networks_of(path).values()
    sweep = touchstone.read(SWEEP)
    np.testing.assert_allclose(network.z[:, 0, 0], sweep.impedance_ohm, rtol=1e-9)
    referred = network.copy()
    referred.renormalize(75.0)
    made = tmp_path / "made.zip"
    networks.save_archive(made, {"loft": referred}, [("15 m", 21.0e6, 21.45e6)])
    taken = client.post("/api/archives", content=made.read_bytes())
    assert taken.status_code == 201, taken.text
    sweep_id = taken.json()["builds"][0]["sweeps"][0]["id"]
    exported = client.get(f"/api/sweeps/{sweep_id}/export").content
    np.testing.assert_allclose(touchstone.read(exported).impedance_ohm, sweep.impedance_ohm, rtol=1e-8)


def test_what_a_design_predicts_is_what_scikit_rf_cascades(networks):
    """A shunt capacitor and a series coil by their values, against scikit-rf's own lumped parts."""
    sweep = touchstone.read(SWEEP)
    content = {
        "antenna": {"kind": "resistor", "resistance_ohm": 50.0},
        "targets": [{"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2.0}],
        "elements": [{"kind": "capacitor", "key": "capacitor", "place": "shunt", "capacitance_f": 7e-12, "q": 1e9}],
    }
    found = networks.predicted_of(content, sweep)["capacitor"]
    media = skrf.media.DefinedGammaZ0(frequency=found.frequency, z0=50.0)
    theirs = media.shunt_capacitor(7e-12) ** networks.network_of(sweep)
    np.testing.assert_allclose(found.s, theirs.s, atol=1e-6)


def test_it_prints_what_is_in_an_archive(tmp_path):
    path = tmp_path / "hand.zip"
    path.write_bytes(by_hand()[1])
    said = subprocess.run(
        [sys.executable, str(TOP / "docs" / "networks.py"), str(path)], capture_output=True, text=True, check=True
    )
    assert said.stdout.startswith("Wire by hand: at the feedpoint")
