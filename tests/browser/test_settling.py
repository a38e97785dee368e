"""What is typed counts in the act of the same millisecond, by mouse, touch and Enter; or the act waits."""

import pytest
from client_helpers import hung, read, trim_of, wire_build
from page_helpers import AT_ONCE, button
from playwright.sync_api import expect

pytestmark = pytest.mark.browser


def at_once(page, settle, field, text, act, way="mouse"):
    page.evaluate(AT_ONCE, [field, text, act, way])
    settle()


def last_of(client, build, kind):
    return next(e["data"] for e in trim_of(client, build)["entries"] if e["data"]["kind"] == kind)


@pytest.fixture
def outdoors(page, address, client, settle):
    """A wire that is planned, on a phone."""
    build = wire_build(client)
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{address}/builds/{build['id']}/outdoors")
    settle()
    return build


@pytest.fixture
def trimmed(page, address, client, settle):
    """A wire that hangs, at the trim desk."""
    build = wire_build(client)
    hung(client, build, 2.96)
    page.goto(f"{address}/builds/{build['id']}/trim")
    settle()
    return build


WAYS = pytest.mark.parametrize("way", ["mouse", "touch"])


@WAYS
def test_outdoors_what_hangs_is_what_was_typed(page, client, outdoors, settle, way):
    at_once(page, settle, "One leg", "8ft 9in", "So it hangs", way)

    assert last_of(client, outdoors, "hung")["reach_m"] == pytest.approx([8.75 * 0.3048])


def test_outdoors_a_refused_length_hangs_nothing_older(page, client, outdoors, settle):
    at_once(page, settle, "One leg", "8 furlongs", "So it hangs")

    expect(page.get_by_text("“8 furlongs” in One leg was not taken")).to_be_visible()
    expect(page.get_by_label("One leg", exact=True)).to_be_focused()
    assert not trim_of(client, outdoors)["hung"]
    page.get_by_label("One leg", exact=True).fill("2.9 m")
    button(page, "So it hangs").click()
    settle()
    assert last_of(client, outdoors, "hung")["reach_m"] == [2.9]


def test_one_may_go_on_without_what_was_refused(page, client, outdoors, settle):
    planned = float(page.get_by_label("One leg", exact=True).input_value().removesuffix(" m"))
    at_once(page, settle, "One leg", "8 furlongs", "So it hangs")
    button(page, "Go on without it").click()
    settle()

    assert last_of(client, outdoors, "hung")["reach_m"] == pytest.approx([planned], abs=5e-4)


@WAYS
def test_outdoors_a_cut_and_a_dip_are_those_that_were_typed(page, client, outdoors, settle, way):
    hung(client, outdoors, 2.96)
    read(client, outdoors, {"kind": "dip", "meter": "meter", "dip_hz": 24.4e6})
    page.reload()
    settle()
    page.get_by_role("button", name="a different length").click()
    at_once(page, settle, "From each leg", "1 in", "That is what I did", way)
    assert last_of(client, outdoors, "cut")["per_leg_m"] == pytest.approx([0.0254, 0.0254])

    page.evaluate(AT_ONCE, ["Dip at", "24.71", "The dip is at 24.400", way])
    settle()
    logged = [e["data"] for e in trim_of(client, outdoors)["entries"] if e["data"]["kind"] == "reading"]
    assert logged[-1]["reading"]["dip_hz"] == pytest.approx(24.71e6)


@pytest.mark.parametrize("way", ["mouse", "touch", "Enter"])
def test_the_swr_typed_last_is_kept_with_its_dip(page, client, trimmed, settle, way):
    """A dip that is in the band at SWR 2.5 is no good enough."""
    page.get_by_label("Dip at", exact=True).fill("24.94")
    page.get_by_label("Dip at", exact=True).press("Enter")
    expect(page.get_by_label("SWR", exact=True)).to_be_focused()
    at_once(page, settle, "SWR", "2.5", "Keep this reading", way)

    reading = last_of(client, trimmed, "reading")["reading"]
    assert (reading["dip_hz"], reading["swr"]) == (pytest.approx(24.94e6), 2.5)
    expect(page.get_by_text("Stop. Good enough.")).to_have_count(0)


def test_what_is_typed_on_while_the_first_is_taken_stands(page, client, trimmed, settle):
    """An answer that comes late takes nothing away."""
    page.route("**/api/quantities", lambda route: (page.wait_for_timeout(200), route.continue_()))
    field = page.get_by_label("Dip at", exact=True)
    field.fill("24.1")
    field.press("Enter")
    field.fill("24.94")
    button(page, "Keep this reading").click()
    settle()

    assert last_of(client, trimmed, "reading")["reading"]["dip_hz"] == pytest.approx(24.94e6)


def test_an_act_that_waits_shows_and_can_be_cancelled(page, client, trimmed, settle):
    page.route("**/api/quantities", lambda route: (page.wait_for_timeout(1500), route.continue_()))
    page.get_by_label("Dip at", exact=True).fill("24.94")
    button(page, "Keep this reading").click()

    expect(page.get_by_text("waits for what was typed")).to_be_visible()
    expect(button(page, "Keep this reading")).to_have_attribute("aria-busy", "true")
    page.keyboard.press("Escape")
    settle()
    assert not [e for e in trim_of(client, trimmed)["entries"] if e["data"]["kind"] == "reading"]
    assert page.get_by_label("Dip at", exact=True).input_value() == "24.940 MHz"
