"""A person without hardware: connects, calibrates, checks, sweeps, keeps; with every slip said."""

import os
import re
import signal

import pytest
from client_helpers import made_build
from page_helpers import button
from playwright.sync_api import expect

from yielding_coil.analyser.child import SimulatorChild
from yielding_coil.analyser.link import Link

pytestmark = pytest.mark.browser


def verdict(page):
    return page.get_by_role("region", name="Verdict")


def screw_on(page, settle, thing):
    page.get_by_label("What is screwed on").select_option(thing)
    settle()


def type_in(page, settle, label, text):
    page.get_by_label(label, exact=True).fill(text)
    page.get_by_label(label, exact=True).press("Enter")
    settle()


def connect(page, address, settle):
    page.goto(f"{address}/analyser")
    button(page, "Connect the simulated analyser").click()
    settle()


def calibrate(page, settle):
    button(page, "Begin with the short").click()
    settle()
    for standard in ("short", "open", "load"):
        screw_on(page, settle, standard)
        button(page, f"Sweep the {standard}").click()
        settle()
    button(page, "Check with the load").click()
    settle()
    expect(verdict(page)).to_contain_text(re.compile(r"−[56]\d dB"))
    button(page, "Go on to the sweep").click()


def test_from_an_empty_shelf_to_a_baseline(page, address, bench, settle):
    page.goto(address)
    page.get_by_role("link", name="analyser, a simulated one if you have none").click()
    button(page, "Connect the simulated analyser").click()
    settle()
    calibrate(page, settle)
    screw_on(page, settle, "loft")
    page.get_by_label("Height").fill("feedpoint 5 m up")
    page.get_by_label("What is near").fill("roof tiles")
    button(page, "Sweep and keep").click()
    settle()
    expect(verdict(page)).to_contain_text(re.compile(r"24\.\d{3}"))
    expect(page.get_by_role("region", name="Kept")).to_contain_text("A good sweep")
    expect(page.get_by_role("region", name="Kept")).to_contain_text("dB of residual after the load check mean")
    page.get_by_label("make it the baseline of a new build").fill("Loft dipole")
    button(page, "Make the build").click()
    settle()
    expect(page.get_by_role("heading", name="Loft dipole")).to_be_visible()
    expect(page.get_by_text("At the feedpoint; feedpoint 5 m up, roof tiles")).to_be_visible()
    expect(page.get_by_text("used for the match")).to_be_visible()

    # From the build to the analyser and back: its range, and what was said of the setup, are carried on.
    page.get_by_role("link", name="Sweep it with the analyser").click()
    settle()
    expect(page.get_by_label("Height")).to_have_value("feedpoint 5 m up")
    button(page, "Sweep and keep").click()
    settle()
    button(page, "Make it the baseline of Loft dipole").click()
    settle()
    expect(page.get_by_text("used for the match")).to_be_visible()


def test_slips_are_said_and_mended(page, address, bench, settle):
    connect(page, address, settle)
    button(page, "Begin with the short").click()
    settle()
    screw_on(page, settle, "short")
    button(page, "Sweep the short").click()
    settle()
    button(page, "Sweep the open").click()  # with the short still on
    settle()
    expect(page.get_by_role("alert")).to_contain_text("short and the open gave the same curve")
    screw_on(page, settle, "load")
    button(page, "Sweep it again").nth(1).click()  # the load taken for the open, and the other way round
    settle()
    screw_on(page, settle, "open")
    button(page, "Sweep the load").click()
    settle()
    expect(page.get_by_role("alert")).to_contain_text("load and the open look exchanged")
    button(page, "Sweep it again").nth(1).click()
    settle()
    screw_on(page, settle, "load")
    button(page, "Sweep it again").nth(2).click()
    settle()
    expect(page.get_by_role("alert")).to_have_count(0)
    button(page, "Go on to the sweep").click()
    button(page, "Sweep and keep").click()  # the load is still on
    settle()
    expect(verdict(page)).to_contain_text("This is the load itself")
    expect(page.get_by_role("region", name="Kept")).to_contain_text("before you make it a baseline")

    type_in(page, settle, "Start", "10")
    expect(page.get_by_text("This is wider than the calibration, 20.000 to 30.000 MHz")).to_be_visible()
    expect(button(page, "Sweep and keep")).to_be_disabled()
    button(page, "Sweep only what is calibrated").click()
    expect(button(page, "Sweep and keep")).to_be_enabled()


def test_no_dip_in_view_looks_further_and_goes_there(page, address, bench, settle):
    connect(page, address, settle)
    button(page, "Sweep without correction").click()
    screw_on(page, settle, "loft")
    type_in(page, settle, "Start", "27")
    button(page, "Sweep and keep").click()
    settle()
    expect(verdict(page)).to_contain_text("the dip lies below it")
    expect(verdict(page)).to_contain_text(re.compile(r"found a dip near 24\.\d"))
    button(page, "Look there").click()
    button(page, "Sweep and keep").click()
    settle()
    expect(verdict(page)).not_to_contain_text("No dip")
    expect(verdict(page)).to_contain_text("Not corrected")


@pytest.mark.deep
def test_adjusting_goes_on_until_it_is_stopped(page, address, bench, settle):
    connect(page, address, settle)
    button(page, "Sweep without correction").click()
    screw_on(page, settle, "loft")
    button(page, "Keep sweeping while I adjust").click()
    expect(page.get_by_role("status").filter(has_text=re.compile(r"pass ([3-9]|\d\d)"))).to_be_visible()
    button(page, "Stop adjusting").click()
    expect(button(page, "Keep sweeping while I adjust")).to_be_enabled()
    button(page, "Sweep and keep").click()
    settle()
    expect(page.get_by_role("region", name="Kept")).to_be_visible()


def test_a_killed_simulator_is_said_and_started_again(page, address, application, settle):
    app, _ = application
    child = SimulatorChild()
    app.state.link = Link(child)
    try:
        connect(page, address, settle)
        os.kill(child.pid, signal.SIGKILL)
        child._process.wait()
        button(page, "Sweep without correction").click()
        button(page, "Sweep and keep").click()
        settle()
        expect(page.get_by_role("alert")).to_contain_text(re.compile("broke|has stopped|nothing answers"))
        button(page, "Start the simulated analyser again").click()
        settle()
        button(page, "3 Sweep").click()
        button(page, "Sweep and keep").click()
        settle()
        expect(page.get_by_role("region", name="Kept")).to_be_visible()
    finally:
        app.state.link.connect("none")
        app.state.link = Link()
        child.stop()


@pytest.mark.deep
def test_nobody_at_an_address_and_a_bad_one(page, address, bench, settle):
    page.goto(f"{address}/analyser")
    field = page.get_by_label("One on your network, host:port")
    for typed, words in (("127.0.0.1:9", "nothing answers at 127.0.0.1:9"), ("bench", "host:port, as in")):
        field.fill(typed)
        button(page, "Connect").click()
        settle()
        expect(page.get_by_role("alert")).to_contain_text(words)
        expect(field).to_have_value(typed)


def test_a_line_is_swept_kept_and_moves_the_shack_sweep(page, address, laid_in, bench, settle):
    connect(page, address, settle)
    type_in(page, settle, "Start", "1")
    type_in(page, settle, "Stop", "100")
    calibrate(page, settle)
    page.goto(f"{address}/lines")
    settle()
    for end, thing in (("open", "cable-open"), ("shorted", "cable-short")):
        page.get_by_label("On the simulated bench is").select_option(thing)
        settle()
        button(page, f"Sweep it: far end {end}").click()
        settle()
    expect(verdict(page)).to_contain_text("Electrical length 20.9")  # 17.6/0.84
    type_in(page, settle, "Length by the tape", "17.6")
    expect(verdict(page)).to_contain_text("Velocity factor 0.84")
    expect(page.get_by_role("region", name="The way to its end")).to_contain_text("open end")
    page.get_by_label("Keep it as your own cable").fill("allotment drum")
    button(page, "Keep it").click()
    settle()

    page.goto(address)
    page.get_by_role("link", name="Allotment long vertical").click()
    page.get_by_role("link", name="Sweep", exact=True).click()
    page.get_by_role("radio", name="show allotment-shack").check()
    settle()
    expect(page.get_by_text("this line can show no more than")).to_be_visible()
    button(page, "Move it to the feedpoint").click()
    settle()
    panel = page.get_by_role("region", name="The plane moved")
    expect(panel.get_by_role("alert")).to_contain_text("Measure the velocity of this line")
    panel.get_by_label("Line", exact=True).select_option(label="allotment drum")
    settle()
    expect(panel.get_by_role("alert")).to_have_count(0)
    panel.get_by_role("button", name="Keep it as a sweep of its own").click()
    settle()
    expect(page.get_by_role("radio", name="show allotment-shack, at the feedpoint")).to_be_checked()


def test_behind_twenty_db_the_page_says_that_nothing_can_be_told(page, address, client, settle):
    build = made_build(client)
    asked = {
        "sweep_id": build["baseline_sweep_id"],
        "line": {"cable": "pe-5", "length_m": 300},
        "towards": "radio",
        "name": "far away",
    }
    assert client.post("/api/plane-shifts/kept", json=asked).status_code == 201
    page.goto(f"{address}/builds/{build['id']}/sweep")
    page.get_by_role("radio", name="show far away").check()
    settle()
    expect(page.get_by_text("a resistor up there cannot be told from an antenna")).to_be_visible()


def test_a_calibration_is_named_corrected_binned_and_taken_back(page, address, bench, settle):
    connect(page, address, settle)
    page.get_by_label("Where the standards go").fill("at the feedpoint, behind the choke")
    page.get_by_label("Name of the calibration").fill("up the pole")
    calibrate(page, settle)
    button(page, "2 Calibrate").click()
    expect(page.get_by_text("at the feedpoint, behind the choke: “up the pole”")).to_be_visible()
    button(page, "Rename the calibration").click()
    page.get_by_label("Name of the calibration").fill("pole, after rain")
    page.get_by_label("Name of the calibration").press("Enter")
    settle()
    page.get_by_text("What the standards are").click()
    type_in(page, settle, "Load", "fifty")
    expect(page.get_by_role("alert")).to_contain_text("fifty")
    expect(page.get_by_label("Load", exact=True)).to_have_value("fifty")  # what was typed stays
    type_in(page, settle, "Load", "49.8")
    expect(page.get_by_label("Load", exact=True)).to_have_value("49.80 Ω")
    type_in(page, settle, "Fringing of the open", "60 fF")
    expect(page.get_by_label("Fringing of the open")).to_have_value("0.060 pF")
    type_in(page, settle, "Offset of the short", "3 mm")
    expect(page.get_by_label("Offset of the short")).to_have_value("3.0 mm")

    button(page, "put this one in the bin").click()
    settle()
    expect(page.get_by_text("“pole, after rain” is in the bin")).to_be_visible()
    button(page, "Take it back").click()
    settle()
    expect(page.get_by_role("heading", name="pole, after rain")).to_be_visible()

    # Left and opened again in the same window it is still the one in use; another one can be chosen.
    page.goto(f"{address}/analyser")
    settle()
    expect(page.get_by_text("“pole, after rain”")).to_be_visible()
    button(page, "2 Calibrate").click()
    button(page, "another calibration").click()
    button(page, "Use “pole, after rain”").click()
    expect(page.get_by_role("heading", name="pole, after rain")).to_be_visible()


def test_the_range_is_set_as_one_thinks_of_it(page, address, bench, settle):
    connect(page, address, settle)
    button(page, "centre and span").click()
    type_in(page, settle, "Centre", "24.4")
    type_in(page, settle, "Span", "2000k")
    button(page, "start and stop").click()
    expect(page.get_by_label("Start", exact=True)).to_have_value("23.400 MHz")
    expect(page.get_by_label("Stop", exact=True)).to_have_value("25.400 MHz")
    button(page, "wider").click()
    expect(page.get_by_label("Stop", exact=True)).to_have_value("26.400 MHz")
    button(page, "narrower").click()
    type_in(page, settle, "Start", "26")  # beyond the stop: the two change places
    expect(page.get_by_label("Start", exact=True)).to_have_value("25.400 MHz")
    expect(page.get_by_label("Stop", exact=True)).to_have_value("26.000 MHz")
    type_in(page, settle, "Stop", "2,5,00")
    expect(page.get_by_role("alert")).to_contain_text("2,5,00")
    expect(page.get_by_label("Stop", exact=True)).to_have_value("2,5,00")


@pytest.mark.deep
def test_on_a_phone_by_touch(browser, browser_context_args, address, bench):
    """390 px: connected, swept without correction, kept, and nothing runs out of the page."""
    context = browser.new_context(
        **{**browser_context_args, "viewport": {"width": 390, "height": 844}, "has_touch": True}
    )
    page = context.new_page()
    page.goto(f"{address}/analyser")
    page.get_by_role("button", name="Connect the simulated analyser").tap()
    page.get_by_role("button", name="Sweep without correction").tap()
    page.get_by_label("What is screwed on").select_option("loft")
    page.get_by_role("button", name="Sweep and keep").tap()
    expect(page.get_by_role("region", name="Kept")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.goto(f"{address}/lines")
    expect(page.get_by_role("heading", name="Know your line")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    context.close()
