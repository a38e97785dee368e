"""From “nothing on 40” to “mended, as the baseline again”: as one does it at the desk, and in the garden."""

from functools import cache

import numpy as np
import pytest
from client_helpers import logged, wire_build
from page_helpers import AT_ONCE, button
from playwright.sync_api import expect

from yielding_coil import data
from yielding_coil.core.line import Line
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.wire import KINDS, Ground
from yielding_coil.core.wire.kinds import Stock
from yielding_coil.formats import touchstone

pytestmark = pytest.mark.browser

FORTY = {"label": "40 m", "low_hz": 7.0e6, "high_hz": 7.2e6, "swr_limit": 2.0}
PLAN = {"kind": "wire", "antenna": "dipole", "numbers": {"leg_m": 10.05, "height_m": 9}}
SWEPT = np.linspace(1.8e6, 30e6, 301)
LENGTH_M = 30.5
VIEWS = {"desk": ({"width": 1280, "height": 800}, "day"), "garden": ({"width": 390, "height": 844}, "outdoors")}


@cache
def dipole():
    """As it hangs: a little longer and lower than planned, over other soil."""
    hung = KINDS["dipole"].made({"leg_m": 10.12, "height_m": 8.6}, Stock(), Ground(0.004, 11))
    return hung.structure().impedance_at(SWEPT)


def at_radio(shorted_m=None, joint_ohm=0.0):
    """Touchstone bytes of a sweep at the radio's end of the coax."""
    coax = data.cable("pe-5")
    z = dipole() + joint_ohm
    if shorted_m is None:
        return touchstone.write(Sweep(SWEPT, Line(coax, LENGTH_M).input_impedance(SWEPT, z)))
    above = Line(coax, LENGTH_M - shorted_m).input_impedance(SWEPT, z)
    seen = Line(coax, shorted_m).input_impedance(SWEPT, 1 / (1 / above + 1 / 0.4))
    return touchstone.write(Sweep(SWEPT, seen))


def dropped(client, build, name, content):
    answer = client.post("/api/sweeps", params={"name": name, "build_id": build["id"]}, content=content)
    assert answer.status_code == 201, answer.text
    return answer.json()


@pytest.fixture
def build(client):
    """A planned dipole with a baseline at the radio."""
    made = wire_build(client, [FORTY], "Orchard dipole", form="dipole", antenna=PLAN)
    swept = dropped(client, made, "may.s1p", at_radio())
    now = client.get(f"/api/builds/{made['id']}").json()
    changed = {"revision": now["revision"], "baseline_sweep_id": swept["id"]}
    return client.patch(f"/api/builds/{made['id']}", json=changed).json()


def drop(page, content, name):
    page.set_input_files("input[type=file]", {"name": name, "mimeType": "text/plain", "buffer": content})


@pytest.mark.parametrize("where", VIEWS)
def test_from_nothing_on_40_to_as_the_baseline_again(page, address, build, settle, where):
    size, theme = VIEWS[where]
    page.set_viewport_size(size)
    page.goto(address)
    page.evaluate("(theme) => localStorage.setItem('theme', theme)", theme)
    page.reload()
    settle()
    button(page, "Something is wrong with Orchard dipole").click()
    page.get_by_text("gone", exact=True).click()
    page.get_by_text("somebody dug or mowed").click()
    page.get_by_role("textbox", name="Its length").fill("30.5")
    button(page, "Look for it").click()
    expect(page.get_by_role("heading", name="Sweep it as it is")).to_be_visible()
    drop(page, at_radio(shorted_m=21.0), "now.s1p")
    found = page.get_by_role("heading", name="coax: shorted near")
    expect(found).to_be_visible()
    assert abs(float(found.inner_text().split("near ")[1].split(" ")[0]) - 21.0) < 0.5
    expect(page.get_by_text("ask before you dig")).to_be_visible()
    page.get_by_text("Marked before anything was taken apart").click()
    button(page, "Mended").click()
    page.get_by_role("link", name="Sweep it again").click()
    settle()
    drop(page, at_radio(), "after.s1p")
    settle()
    page.go_back()
    expect(page.get_by_text("As the baseline again")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= size["width"]
    page.goto(f"{address}/builds/{build['id']}/log")
    expect(page.get_by_text("Mended: line")).to_be_visible()


def test_answers_are_kept_undone_and_put_back_by_keyboard(page, address, build, client, settle):
    logged(
        client,
        build,
        {"kind": "fault_begun", "bands": {"40 m": "gone"}, "line": {"cable": "pe-5", "length_m": LENGTH_M}},
    )
    page.goto(f"{address}/builds/{build['id']}/fault")
    button(page, "Go on without it").click()
    expect(page.get_by_role("heading", name="So far")).to_be_visible()
    page.get_by_role("button", name="Ohmmeter across the coax").click()
    field = page.get_by_role("textbox", name="Or it reads")
    field.fill("three")
    field.press("Enter")
    expect(page.get_by_text("three").or_(page.locator(".problem"))).to_have_count(1)
    field.fill("0.8 ohm")
    field.press("Enter")
    button(page, "Keep it").press("Enter")
    so_far = page.get_by_role("listitem").filter(has_text="Ohmmeter across the coax: 800 mΩ")
    expect(so_far).to_be_visible()
    button(page, "Undo the last").press("Enter")
    expect(so_far).to_be_hidden()
    button(page, "Put it back").press("Enter")
    expect(so_far).to_be_visible()
    page.reload()
    expect(so_far).to_be_visible()
    button(page, "line first").press("Enter")
    expect(button(page, "line first")).to_have_attribute("aria-pressed", "true")


@pytest.mark.parametrize("way", ["mouse", "touch"])
def test_typed_and_pressed_at_once_nothing_is_lost(page, address, build, client, settle, way):
    page.goto(f"{address}/builds/{build['id']}/fault")
    settle()
    page.evaluate(AT_ONCE, ["Its length", "28.5 m", "Look for it", way])
    button(page, "Go on without it").click()
    page.get_by_role("button", name="Ohmmeter across the coax").click()
    button(page, "Keep it").click()
    expect(page.get_by_text("Nothing was read yet")).to_be_visible()
    page.evaluate(AT_ONCE, ["Or it reads", "12 ohm", "Keep it", way])
    expect(page.get_by_role("listitem").filter(has_text="Ohmmeter across the coax: 12 Ω")).to_be_visible()
    begun = client.get(f"/api/builds/{build['id']}/fault").json()["begun"]
    assert begun["line"]["length_m"] == 28.5


def test_a_contradiction_and_a_wrong_plane_are_said(page, address, build, client):
    logged(client, build, {"kind": "fault_begun", "line": {"cable": "pe-5", "length_m": LENGTH_M}})
    swept = dropped(client, build, "at the feed.s1p", touchstone.write(Sweep(SWEPT, dipole())))
    test = {"kind": "fault_test", "act": "as_it_is", "reading": {"kind": "sweep"}}
    entry = logged(client, build, test, sweep_id=swept["id"]).json()
    page.goto(f"{address}/builds/{build['id']}/fault")
    expect(page.get_by_text("Swept somewhere else?")).to_be_visible()
    client.delete(f"/api/entries/{entry['id']}", params={"revision": entry["revision"]})
    for act, ohm in (("ohm_line_open", 0.3), ("ohm_line_short", None)):
        logged(client, build, {"kind": "fault_test", "act": act, "reading": {"kind": "ohm", "ohm": ohm}})
    page.reload()
    expect(page.get_by_text("Two answers contradict each other")).to_have_count(2)
    expect(page.get_by_text("test 1 and test 2")).to_be_visible()


def test_practice_on_the_simulated_site(page, address, build, bench, settle):
    page.goto(f"{address}/builds/{build['id']}/fault")
    page.get_by_role("textbox", name="Its length").fill("30.5")
    button(page, "Practise: let the simulated site break").click()
    expect(page.get_by_role("heading", name="So far")).to_be_visible()
    for _ in range(8):
        settle()
        if page.get_by_role("button", name="That is it").count():
            break
        button(page, "Do it on the simulated site").click()
        settle()
    else:
        button(page, "Give up for now").click()
    if page.get_by_role("button", name="That is it").count():
        button(page, "That is it").click()
    button(page, "What was it really?").click()
    expect(page.get_by_text("It really was:")).to_be_visible()
    expect(page.get_by_text("The shortest way:")).to_be_visible()
