"""From what lies in the drawer to what it becomes; and how a match is wired, whichever it is."""

import re

import pytest
from client_helpers import BAND, made_build, wire_build
from page_helpers import button
from playwright.sync_api import expect

pytestmark = pytest.mark.browser

RINGS = {"kind": "core", "name": "three grey rings", "count": 3, "values": {"mix": "31", "size": "FT240"}}


def test_three_rings_become_a_choke_and_an_unun(page, address, client, settle):
    piece = client.post("/api/pieces", json=RINGS).json()
    build = made_build(client)
    page.goto(f"{address}/drawer?kind=core")
    expect(page.get_by_label("What can I make of it, for")).to_have_value(build["id"])
    page.get_by_role("link", name="wind on it").click()
    settle()
    expect(page.get_by_label("On which ring")).to_have_value(piece["id"])
    page.get_by_role("button", name="Choke, 11 turns of thin coax").click()
    settle()
    expect(page.get_by_text("11 turns", exact=False).first).to_be_visible()
    button(page, "something else").click()
    page.get_by_label("On which ring").select_option(piece["id"])
    page.get_by_role("button", name="49 : 1 unun, 2 in 14").click()
    settle()

    made = client.get(f"/api/builds/{build['id']}/designs").json()
    wound = [w for d in made for w in [*d["revision"]["content"]["elements"], *d["revision"]["content"]["beside"]]]
    cores = {w["key"]: (w["core"]["mix"], w["core"]["size"], w["piece"]["id"]) for w in wound if w.get("core")}
    assert cores == dict.fromkeys(("choke", "unun"), ("31", "FT240", piece["id"]))
    # On the wire as it was swept, not on what such wires usually show.
    unun = next(d for d in made if any(e["key"] == "unun" for e in d["revision"]["content"]["elements"]))
    assert unun["revision"]["content"]["antenna"]["sweep_id"] == build["baseline_sweep_id"]


def test_a_wire_and_a_capacitor_become_a_trap_of_the_build_that_is_chosen(page, address, client, settle):
    held = {"kind": "wire", "name": "green enamel", "values": {"diameter_m": 1.25e-3, "covered_m": 1.32e-3}}
    wire = client.post("/api/pieces", json=held)
    assert wire.status_code == 201, wire.text
    values = {"capacitance_f": 47e-12, "tolerance": 0.02, "q": 900, "voltage_v": 500}
    mica = client.post("/api/pieces", json={"kind": "capacitor", "name": "mica", "values": values}).json()
    two = [BAND, {"label": "30 m", "low_hz": 10.1e6, "high_hz": 10.15e6, "swr_limit": 2.0}]
    build = wire_build(client, targets=two)
    made_build(client)
    page.goto(f"{address}/drawer?kind=capacitor")
    page.get_by_label("What can I make of it, for").select_option(build["id"])
    page.get_by_role("link", name="a trap with it").click()
    settle()
    expect(page.get_by_label("A trap with which capacitor")).to_have_value(mica["id"])
    page.get_by_label("With which wire").select_option(wire.json()["id"])
    page.get_by_role("button", name="Trap, coil and capacitor").click()
    settle()

    (design,) = client.get(f"/api/builds/{build['id']}/designs").json()
    (trap,) = design["revision"]["content"]["beside"]
    assert (trap["capacitance_f"], trap["capacitance_spread"]) == (47e-12, 0.02)
    assert trap["wire_piece"]["id"] == wire.json()["id"]


def test_quick_find_knows_the_trade_and_the_drawer(page, address, client, settle):
    client.post("/api/pieces", json=RINGS)
    build = made_build(client)
    page.goto(address)
    settle()
    for typed, found in (
        ("unun", f"Unun or transformer for {build['name']}"),
        ("common mode", f"Choke for {build['name']}"),
        ("balun", f"Balun for {build['name']}"),
        ("toroid", "Which ring is this?"),
        ("grey", "three grey rings"),
    ):
        page.keyboard.press("/")
        page.get_by_role("combobox", name="Find a build, a part, a desk").fill(typed)
        expect(page.get_by_text(found).first).to_be_visible()
        page.keyboard.press("Escape")


def test_a_window_asked_for_right_after_another_closed_comes(page, address, settle):
    page.goto(address)
    settle()
    page.keyboard.press("/")
    field = page.get_by_role("combobox", name="Find a build, a part, a desk")
    expect(field).to_be_focused()
    # Closed and asked for again before the browser has told of the first one's end.
    page.evaluate("""async () => {
        document.querySelector('dialog').requestClose();
        for (let turn = 0; turn < 9; turn++) await Promise.resolve();
        document.activeElement.dispatchEvent(
            new KeyboardEvent('keydown', { key: '/', bubbles: true, cancelable: true }));
    }""")
    settle()
    page.wait_for_timeout(100)
    expect(field).to_be_focused()


def test_every_l_match_has_its_picture_on_paper_too(laid_in, page, address, client, settle):
    """Two coils, two capacitors, one of each: which goes where, and what it is."""
    seen = set()
    for build in client.get("/api/builds").json():
        if build["baseline_sweep_id"] is None:
            continue
        page.goto(f"{address}/builds/{build['id']}/match")
        settle()
        for name in page.get_by_role(
            "button", name=re.compile(r"^(Coil|C) in series, .* across the \w+$")
        ).all_inner_texts():
            page.get_by_role("button", name=name, exact=True).first.click()
            settle()
            series, shunt, where = re.fullmatch(r"(\w+) in series, (\w+) across the (\w+)", name).groups()
            words = {"Coil": "coil", "coil": "coil", "C": "capacitor"}
            picture = page.get_by_role("img", name=re.compile("^Wiring: "))
            said = picture.get_attribute("aria-label")
            assert f"Series {words[series]} of " in said, (name, said)
            assert f"Shunt {words[shunt]} of " in said, (name, said)
            assert ("from the wire to ground" in said) == (where == "wire"), (name, said)
            page.emulate_media(media="print")
            expect(picture).to_be_visible()
            page.emulate_media(media="screen")
            seen.add((words[series], words[shunt]))
    assert len(seen) >= 3
