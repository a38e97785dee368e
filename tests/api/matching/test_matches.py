"""What is well matched already, or asks for much, is answered like any other wire."""

import numpy as np
import pytest
from client_helpers import bare, drop

TWENTY = {"label": "20 m", "low_hz": 14.0e6, "high_hz": 14.35e6, "swr_limit": 1.5}
FIVE = [(7.0, 7.2), (10.1, 10.15), (14.0, 14.35), (21.0, 21.45), (28.0, 29.7)]
F = np.linspace(13.5, 15, 31)
WIDE = np.linspace(6.5, 30, 400)
WIRES = {
    "flat 50 ohm": (F, 50 + 0j * F, [TWENTY]),
    "50 and 2 ohm of reactance": (F, 50 + 2j + 0 * F, [TWENTY]),
    "three typed points": (np.array([13.9, 14.2, 14.4]), np.array([40 - 20j, 50 + 1j, 60 + 22j]), [TWENTY]),
    "five bands at 1.2": (
        WIDE,
        60 + 30j * np.sin(WIDE),
        [{"label": f"{a}", "low_hz": a * 1e6, "high_hz": b * 1e6, "swr_limit": 1.2} for a, b in FIVE],
    ),
}


@pytest.mark.parametrize("name", WIRES)
@pytest.mark.deep
def test_every_network_found_can_be_kept_and_drawn(client, name):
    """Found: capacitors of next to nothing ended in an error of the server's."""
    f, z, targets = WIRES[name]
    text = "MHz,R,X\n" + "".join(f"{a:.4f},{b.real:.4f},{b.imag:.4f}\n" for a, b in zip(f, z, strict=True))
    sweep = drop(client, text.encode(), name="wire.csv").json()
    build = client.post("/api/builds", json={"name": name, "sweep_id": sweep["id"], "targets": targets}).json()
    found = client.post("/api/matches", json={"content": bare(build)})

    assert found.status_code == 200, found.text
    # A network that would be nothing says why it is none.
    assert all(c["content"] or c["refused"] for c in found.json())
    for content in (c["content"] for c in found.json() if c["content"]):
        kept = client.post(f"/api/builds/{build['id']}/designs", json={"name": "d", "content": content})
        assert kept.status_code == 201, kept.text
        around = {"content": content, "low_hz": targets[0]["low_hz"], "high_hz": targets[0]["high_hz"]}
        for what in ("predictions", "yields"):
            shown = client.post(f"/api/{what}", json=around)
            assert shown.status_code == 200, shown.text
