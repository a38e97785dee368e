"""The whole way as a person goes it, in headless Chromium, from an empty shelf."""

import re
from pathlib import Path

import numpy as np
import pytest
import skrf
from client_helpers import drop as drop_made
from playwright.sync_api import expect

DEMO = Path(__file__).parents[2] / "yielding_coil" / "demo"

pytestmark = pytest.mark.browser


def drop(page, path_or_payload):
    page.get_by_label("Choose a file").set_input_files(path_or_payload)


def coil_field(page):
    return page.get_by_role("textbox", name="Series coil")


def verdict(page):
    return page.get_by_role("region", name="Verdict")


def test_from_a_dropped_file_to_a_saved_and_reopened_design(page, address, settle):
    page.goto(address)
    expect(page.get_by_text("Nothing on the shelf yet")).to_be_visible()
    drop(page, DEMO / "allotment-feedpoint.s1p")

    expect(page.get_by_role("heading", name="allotment feedpoint")).to_be_visible()
    expect(verdict(page)).to_contain_text("44.1 : 1")
    expect(verdict(page)).to_contain_text("wants a coil")
    page.get_by_role("link", name="Choose a match").click()

    expect(verdict(page)).to_contain_text(re.compile(r"9\d(\.\d)? %"))
    page.get_by_label("Length of coax").fill("17,6 m")
    page.get_by_label("Length of coax").press("Enter")
    expect(page.get_by_text("Coax, 17.6 m")).to_be_visible()
    coil_field(page).fill("2u25")
    coil_field(page).press("Enter")
    expect(page.get_by_role("status").filter(has_text="Saved")).to_be_visible()
    settle()

    page.reload()
    expect(coil_field(page)).to_have_value("2.25 µH")
    expect(page.get_by_text("Coax, 17.6 m")).to_be_visible()
    page.get_by_role("link", name="Yielding Coil").click()
    expect(page.get_by_text("Match designed")).to_be_visible()
    page.get_by_role("link", name="allotment feedpoint").click()
    expect(coil_field(page)).to_have_value("2.25 µH")


def test_a_file_of_another_kind_gives_the_curves_that_scikit_rf_reads(page, address, settle, tmp_path):
    """MA, GHz, 75 Ω; scikit-rf 2.2.0 reads the same file."""
    f = np.linspace(0.0208, 0.0216, 41)
    gamma = 0.6 * np.exp(1j * np.linspace(1.0, -1.2, 41))
    rows = "\n".join(f"{a:.6f} {abs(g):.6f} {np.degrees(np.angle(g)):.4f}" for a, g in zip(f, gamma, strict=True))
    path = tmp_path / "narrowboat whip.s1p"
    path.write_text(f"! made up\n# GHz S MA R 75\n{rows}\n")
    theirs = skrf.Network(path)
    theirs_z = theirs.z[:, 0, 0]

    page.goto(address)
    with page.expect_response(re.compile("/curves")) as answered:
        drop(page, path)
    settle()
    drawn = answered.value.json()
    assert drawn["frequency_hz"] == pytest.approx(theirs.f)
    assert drawn["resistance_ohm"] == pytest.approx(theirs_z.real, rel=1e-4)
    assert drawn["reactance_ohm"] == pytest.approx(theirs_z.imag, rel=1e-4, abs=1e-3)
    slider = page.get_by_role("slider", name="Marker frequency")
    slider.focus()
    slider.press("Home")
    expect(slider).to_have_attribute("aria-valuetext", re.compile("20.800 MHz"))
    z = theirs_z[0]
    expect(slider).to_have_attribute("aria-valuetext", re.compile(f"{z.real:.0f} \\+ j{z.imag:.0f} Ω"))


@pytest.mark.parametrize(
    ("name", "data", "words"),
    [
        ("empty.s1p", b"", "the file is empty"),
        ("photo.s1p", b"\x89PNG\r\n\x1a\n" + bytes(64), "this is a PNG picture"),
        ("two.s2p", b"# Hz S RI R 50\n1e6 0 0 1 0 1 0 0 0\n", "take S11"),
        ("back.s1p", b"# Hz S RI R 50\n2e6 0 0\n1e6 0 0\n", "line 3"),
    ],
)
def test_a_wrong_file_says_why_and_leaves_the_shelf_as_it_was(page, address, settle, name, data, words):
    page.goto(address)
    drop(page, {"name": name, "mimeType": "application/octet-stream", "buffer": data})

    expect(page.get_by_role("alert")).to_contain_text(name)
    expect(page.get_by_role("alert")).to_contain_text(words)
    expect(page.get_by_text("Nothing on the shelf yet")).to_be_visible()
    drop(page, DEMO / "allotment-feedpoint.s1p")  # and the next file is taken
    expect(verdict(page)).to_contain_text("44.1 : 1")


def test_targets_are_chosen_and_a_band_outside_the_sweep_is_refused(page, address, laid_in, settle):
    page.goto(address)
    page.get_by_role("link", name="Allotment long vertical").click()
    page.get_by_role("link", name="Sweep", exact=True).click()
    upper = page.get_by_label("to", exact=True)
    upper.fill("23")
    upper.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("inside the sweep, 20.000 to 22.500 MHz")
    expect(upper).to_have_value("23")

    upper.fill("21.2")
    upper.press("Enter")
    expect(upper).to_have_value("21.200 MHz")
    limit = page.get_by_label("limit")
    limit.fill("1.5 : 1")
    limit.press("Enter")
    expect(page.get_by_text("never below 1.50")).to_be_visible()


def test_other_targets_are_offered_to_a_design_made_before(match_desk, settle):
    page = match_desk
    page.get_by_role("link", name="Sweep", exact=True).click()
    limit = page.get_by_label("limit")
    limit.fill("1.5")
    limit.press("Enter")
    expect(limit).to_have_value("1.50")
    page.get_by_role("link", name="Match", exact=True).click()
    page.get_by_role("button", name="Serve 15 m").click()
    expect(verdict(page)).to_contain_text("hold 1.5 : 1")
    settle()
    page.reload()
    expect(verdict(page)).to_contain_text("hold 1.5 : 1")
    expect(page.get_by_role("button", name="Serve 15 m")).to_have_count(0)


def test_dragging_redraws_at_once_and_settling_is_saved(match_desk, settle):
    page = match_desk
    before = page.locator("path.match").first.get_attribute("d")
    ruler = page.get_by_role("slider", name="Series coil, microhenry")
    box = ruler.bounding_box()
    middle = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + box["width"] * 0.5, middle)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.3, middle, steps=4)
    expect(page.locator("path.match").first).not_to_have_attribute("d", before)
    assert page.get_by_role("status").filter(has_text="Saved").count() == 0
    page.mouse.up()
    expect(page.get_by_role("status").filter(has_text="Saved")).to_be_visible()
    expect(page.get_by_text(re.compile(r"The dip moves up \d+ kHz"))).to_be_visible()


@pytest.mark.parametrize(
    ("button", "way"),
    [
        ("Series coil: one step more", "down"),
        ("Series coil: one step less", "up"),
        ("Shunt capacitor: one step more", "down"),
        ("Shunt capacitor: one step less", "up"),
    ],
)
def test_half_a_turn_or_half_a_centimetre_shows_which_way_the_curve_goes(match_desk, button, way):
    """More inductance or capacitance brings a dip down: common practice, and ω = 1/√LC."""
    match_desk.get_by_role("button", name=button).click()

    expect(match_desk.get_by_text(re.compile(rf"The dip moves {way} \d+ kHz"))).to_be_visible()


def test_undo_and_redo_walk_and_survive_a_reload(match_desk, settle):
    page = match_desk
    first = coil_field(page).input_value()
    for text in ("2.0", "1.9"):
        coil_field(page).fill(text)
        coil_field(page).press("Enter")
        expect(coil_field(page)).to_have_value(f"{float(text):.2f} µH")
    settle()
    page.keyboard.press("Escape")
    page.get_by_role("heading", name="SWR at the match").click()
    page.keyboard.press("Control+z")
    expect(coil_field(page)).to_have_value("2.00 µH")
    page.reload()
    expect(coil_field(page)).to_have_value("2.00 µH")
    page.get_by_role("button", name="Undo").click()
    expect(coil_field(page)).to_have_value(first)
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    page.get_by_role("button", name="Redo").click()
    expect(coil_field(page)).to_have_value("2.00 µH")


@pytest.mark.parametrize(
    ("typed", "words"),
    [
        ("8feet", "no unit of it"),
        ("--3", "does not begin with one number"),
        ("", "the field is empty"),
        ("0", "above zero"),
    ],
)
def test_what_is_not_understood_stays_typed_and_changes_nothing(match_desk, typed, words):
    page = match_desk
    before = page.locator("path.match").first.get_attribute("d")
    coil_field(page).fill(typed)
    coil_field(page).press("Enter")

    expect(page.get_by_role("alert").filter(has_text=words)).to_be_visible()
    expect(coil_field(page)).to_have_value(typed)
    assert page.locator("path.match").first.get_attribute("d") == before


def test_turns_and_centimetres_are_typed_too(match_desk, settle):
    """Open solid-PE coax holds about 101 pF/m, and 7 cm of it a little over 7 pF (common practice)."""
    page = match_desk
    turns = page.get_by_label("turns", exact=True)
    turns.fill("7 1/2")
    turns.press("Enter")
    expect(turns).to_have_value("7.5")
    expect(page.get_by_text("7½ turns of 1.6 mm enamelled copper")).to_be_visible()
    cut = page.get_by_label("cut", exact=True)
    cut.fill("7 cm")
    cut.press("Enter")
    expect(page.get_by_role("textbox", name="Shunt capacitor")).to_have_value(re.compile(r"7\.[1-4]\d pF"))
    before = coil_field(page).input_value()
    turns.fill("0")
    turns.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="above zero")).to_be_visible()
    expect(coil_field(page)).to_have_value(before)


def test_a_wire_thicker_than_its_pitch_is_refused_and_the_curve_stays(match_desk):
    page = match_desk
    pitch = page.get_by_label("every")
    pitch.fill("1 mm")
    pitch.press("Enter")

    expect(page.get_by_role("alert").filter(has_text="at least the wire over its covering")).to_be_visible()
    expect(page.locator("path.match").first).to_be_visible()


def test_two_pages_on_one_design_keep_both_states(match_desk, address, context, settle):
    here = match_desk
    there = context.new_page()
    there.goto(here.url)
    expect(coil_field(there)).to_have_value(coil_field(here).input_value())
    coil_field(here).fill("2.1")
    coil_field(here).press("Enter")
    expect(here.get_by_role("status").filter(has_text="Saved")).to_be_visible()
    coil_field(there).fill("1.9")
    coil_field(there).press("Enter")

    expect(there.get_by_text("was changed elsewhere meanwhile")).to_be_visible()
    expect(coil_field(there)).to_have_value("1.90 µH")
    designs = there.get_by_role("region", name="Designs and history")
    expect(
        designs.get_by_role("heading", name=re.compile(r"^Coil in series, C across the wire \(mine, \d\d:\d\d\)$"))
    ).to_be_visible()
    designs.get_by_role("button", name="Open Coil in series, C across the wire", exact=True).click()
    expect(coil_field(there)).to_have_value("2.10 µH")


def test_networks_are_compared_and_taken(match_desk, settle):
    page = match_desk
    page.get_by_role("button", name="C in series, coil across the wire").click()
    expect(page.get_by_role("textbox", name="Series capacitor")).to_be_visible()
    settle()
    page.get_by_role("button", name="Coil in series, C across the wire", exact=True).click()
    expect(coil_field(page)).to_have_value("2.28 µH")


def test_a_short_wire_has_four_networks_and_two_coils_can_be_taken(page, address, settle):
    rows = "\n".join(f"{f} 20 {-150 + (f - 7100) / 4}" for f in range(6800, 7401, 20))
    page.goto(address)
    text = f"# kHz Z RI R 1\n{rows}\n".encode()
    drop(page, {"name": "loft.s1p", "mimeType": "application/octet-stream", "buffer": text})
    page.get_by_role("link", name="Choose a match").click()
    expect(page.get_by_text("Four ways to match this wire")).to_be_visible()
    page.get_by_role("button", name="Coil in series, coil across the wire").first.click()
    expect(page.get_by_role("textbox", name="Shunt coil")).to_be_visible()
    settle()


def test_best_over_band_and_exact_at_the_marker(match_desk, settle):
    page = match_desk
    slider = page.get_by_role("slider", name="Marker frequency")
    page.get_by_role("button", name="At marker").click()
    settle()
    expect(slider).to_have_attribute("aria-valuetext", re.compile(r"SWR 1\.0\d"))
    coil_field(page).fill("1.8")
    coil_field(page).press("Enter")
    settle()
    page.get_by_role("button", name="Best over band").click()
    expect(coil_field(page)).to_have_value("2.28 µH")


def test_the_caution_carries_the_voltage_that_occurs(match_desk):
    expect(match_desk.get_by_role("alert")).to_contain_text(re.compile(r"RF burn.*5[789]0 V peak"))
    power = match_desk.get_by_label("Power")
    power.fill("400")
    power.press("Enter")
    expect(match_desk.get_by_role("alert")).to_contain_text(re.compile(r"1\.\d kV peak"))


def test_metres_and_feet_by_one_switch(match_desk, settle):
    page = match_desk
    page.get_by_text("View", exact=True).click()
    page.get_by_role("radio", name="feet").check()
    expect(page.get_by_text(re.compile(r"Coax, 57' 8 \d+/16\""))).to_be_visible()
    page.get_by_label("Length of coax").fill("8ft 3in")
    page.get_by_label("Length of coax").press("Enter")
    expect(page.get_by_label("Length of coax")).to_have_value("8' 3\"")
    settle()
    page.reload()
    page.get_by_text("View", exact=True).click()
    expect(page.get_by_role("radio", name="feet")).to_be_checked()


def test_the_marker_moves_by_keys_and_is_in_the_address(match_desk, settle):
    page = match_desk
    slider = page.get_by_role("slider", name="Marker frequency")
    slider.focus()
    start = float(slider.get_attribute("aria-valuenow"))
    slider.press("ArrowRight")
    small = float(slider.get_attribute("aria-valuenow")) - start
    slider.press("Shift+ArrowRight")
    large = float(slider.get_attribute("aria-valuenow")) - start - small
    assert large == pytest.approx(5 * small, rel=1e-3)
    assert "marker=21.3" in page.url
    page.reload()
    expect(slider).to_have_attribute("aria-valuetext", re.compile("21.3"))


def test_a_build_goes_to_the_bin_and_comes_back(page, address, laid_in, settle):
    page.goto(address)
    page.get_by_role("button", name="Put Allotment long vertical in the bin").click()
    expect(page.get_by_text("is in the bin")).to_be_visible()
    page.get_by_role("button", name="Take it back").click()
    expect(page.get_by_role("link", name="Allotment long vertical")).to_be_visible()


def test_a_build_that_is_not_there_says_so(page, address, settle):
    page.goto(f"{address}/builds/00000000-0000-4000-8000-000000000000/match")
    expect(page.get_by_role("alert")).to_contain_text("not kept here")


def test_nothing_is_cut_off_at_phone_width(match_desk, settle):
    page = match_desk
    page.set_viewport_size({"width": 390, "height": 844})
    settle()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    expect(page.get_by_text("Match · 3 of 8")).to_be_visible()


def test_two_bands_that_no_network_serves_together_get_one_each(page, address, client, settle):
    """40 and 20 m on one wire (moment-method values, rounded): 0 % is never told to be made."""
    f = [6.0, 7.1, 9.0, 11.0, 13.0, 14.2, 15.5]
    r, x = [45, 68, 150, 600, 2500, 3600, 1800], [-190, 5, 330, 900, 1200, -400, -1900]
    fine = np.linspace(6.0, 15.5, 401)
    rows = "\n".join(f"{a:.5f},{np.interp(a, f, r):.2f},{np.interp(a, f, x):.2f}" for a in fine)
    sweep = drop_made(client, f"MHz,R,X\n{rows}".encode(), "orchard.csv").json()
    build = client.post("/api/builds", json={"name": "Orchard wire", "sweep_id": sweep["id"]}).json()
    targets = [
        {"label": "40 m", "low_hz": 7.0e6, "high_hz": 7.2e6, "swr_limit": 2.0},
        {"label": "20 m", "low_hz": 14.0e6, "high_hz": 14.35e6, "swr_limit": 2.0},
    ]
    changed = client.patch(f"/api/builds/{build['id']}", json={"revision": build["revision"], "targets": targets})
    assert changed.status_code == 200

    page.goto(f"{address}/builds/{build['id']}/match")
    each = page.get_by_role("region", name="One network for each band")
    expect(each).to_contain_text("No single L network of these serves 40 m and 20 m together")
    expect(page.get_by_text("Do not make it as it stands: take one network for each band.")).to_be_visible()
    expect(page.get_by_text("Make these two")).to_have_count(0)
    settle()
    page.goto(address)
    expect(page.get_by_text("this one does not serve them together")).to_be_visible()

    page.goto(f"{address}/builds/{build['id']}/match?marker=7.1")
    page.get_by_role("button", name="Design it for 20 m").click()
    expect(page.get_by_text("Make these two")).to_be_visible()
    # The marker stood on the other band: figures are never read outside what is shown.
    expect(page.get_by_role("slider", name="Marker frequency")).to_have_attribute(
        "aria-valuetext", re.compile("14.175 MHz")
    )
    settle()
    page.goto(address)
    expect(page.get_by_text("and a network for 40 m")).to_be_visible()
