"""Undo, history, copies, the bin, links; and a page that outlives the application."""

import re
import threading
import time

import pytest
import uvicorn
from playwright.sync_api import expect

from yielding_coil.api.app import create_app

pytestmark = pytest.mark.browser


def coil(page):
    return page.get_by_role("textbox", name="Series coil")


def set_coil(page, text):
    coil(page).fill(text)
    coil(page).press("Enter")


def history(page):
    return page.get_by_role("region", name="Designs and history")


def test_undo_and_redo_across_reloads(match_desk, settle):
    page = match_desk
    for text in ("2.1", "2.0", "1.9"):
        set_coil(page, text)
        settle()
    page.get_by_role("button", name="Undo").click()
    settle()
    page.reload()
    settle()
    expect(coil(page)).to_have_value("2.00 µH")
    page.get_by_role("button", name="Undo").click()
    expect(coil(page)).to_have_value("2.10 µH")
    settle()
    page.reload()
    settle()
    page.get_by_role("button", name="Redo").click()

    expect(coil(page)).to_have_value("2.00 µH")


def test_a_state_is_named_laid_over_and_taken_again(match_desk, settle):
    page = match_desk
    set_coil(page, "2.0")
    settle()
    first = history(page).get_by_role("listitem").filter(has_text="state 1")
    first.get_by_role("button", name="Rename the state 1").click()
    page.get_by_label("Name of the state 1").fill("as computed")
    page.get_by_label("Name of the state 1").press("Enter")
    page.get_by_role("button", name="lay over: as computed").click()
    expect(history(page)).to_contain_text("series coil 2.28 µH on 32 mm → 2.00 µH on 32 mm")
    expect(page.locator("text.copper").filter(has_text="as computed")).to_be_visible()
    set_coil(page, "1.9")
    settle()
    page.get_by_role("button", name="lay over: state 2").click()
    for name in ("as computed", "state 2"):
        expect(page.locator("text.copper").filter(has_text=name)).to_be_visible()
    expect(history(page)).to_contain_text("From “state 2” to now: series coil 2.00 µH on 32 mm → 1.90 µH")
    page.get_by_role("button", name="take again: as computed").click()

    expect(coil(page)).to_have_value("2.28 µH")
    expect(page.get_by_role("status").filter(has_text="Saved")).to_be_visible()


def test_designs_are_copied_named_laid_over_and_binned(match_desk, settle):
    page = match_desk
    page.get_by_role("button", name="Duplicate Coil in series, C across the wire").click()
    expect(page.get_by_role("heading", name="Coil in series, C across the wire (copy)", exact=True)).to_be_visible()
    settle()
    set_coil(page, "1.8")
    settle()
    page.get_by_role("button", name="lay over: Coil in series, C across the wire", exact=True).click()
    expect(history(page)).to_contain_text("2.28 µH on 32 mm → 1.80 µH")
    page.get_by_role("button", name="Put Coil in series, C across the wire (copy) in the bin").click()
    expect(coil(page)).to_have_value("2.28 µH")
    settle()
    page.get_by_role("link", name="Yielding Coil").click()
    settle()
    page.get_by_text("View", exact=True).click()
    page.get_by_role("link", name="Bin", exact=True).click()
    page.get_by_role("button", name="Take Coil in series, C across the wire (copy) back").click()

    expect(page.get_by_text("is back")).to_be_visible()
    expect(page.get_by_text("Nothing in here")).to_be_visible()


def test_a_build_is_renamed_copied_binned_and_reached_in_the_bin(page, address, laid_in, settle):
    page.goto(address)
    page.get_by_role("button", name="Duplicate Allotment long vertical").click()
    page.get_by_role("link", name="Allotment long vertical (copy)").click()
    settle()
    page.get_by_role("button", name="Rename the build").click()
    page.get_by_label("Name of the build").fill("Narrowboat whip")
    page.get_by_label("Name of the build").press("Enter")
    expect(page.get_by_role("heading", name="Narrowboat whip")).to_be_visible()
    settle()
    link = page.url
    page.goto(address)
    page.get_by_role("button", name="Put Narrowboat whip in the bin").click()
    expect(page.get_by_text("“Narrowboat whip” is in the bin")).to_be_visible()
    page.goto(link)
    expect(page.get_by_role("alert")).to_contain_text("the build is in the bin")
    page.get_by_role("button", name="Take it out of the bin").click()

    expect(page.get_by_role("heading", name="Narrowboat whip")).to_be_visible()


def test_links_lead_to_a_design_a_state_and_a_marker_and_back_goes_back(match_desk, settle):
    page = match_desk
    set_coil(page, "2.0")
    settle()
    address = page.url.split("?")[0]
    design = re.search(r"design=([0-9a-f-]+)", page.url)[1]
    page.goto(f"{address}?design={design}&revision=1&marker=21.1")
    settle()
    expect(page.get_by_role("slider", name="Marker frequency")).to_contain_text("21.100 MHz")
    expect(page.locator("text.copper").filter(has_text="state 1")).to_be_visible()
    page.get_by_role("link", name="Sweep", exact=True).click()
    expect(page.get_by_role("heading", name="R and X of the wire")).to_be_visible()
    page.go_back()
    expect(page.get_by_role("heading", name="SWR at the match")).to_be_visible()
    settle()
    page.go_forward()

    expect(page.get_by_role("heading", name="R and X of the wire")).to_be_visible()
    settle()


def test_an_unknown_address_says_so(page, address):
    page.goto(f"{address}/nowhere/at/all")
    page.get_by_role("link", name="To the shelf").click()

    expect(page.get_by_role("heading", name="Builds", exact=True)).to_be_visible()


def test_the_demo_is_opened_from_an_empty_shelf(page, address, settle):
    page.goto(address)
    page.get_by_role("button", name="Open the demo builds").click()

    expect(page.get_by_role("link", name="Orchard sloping wire")).to_be_visible()


@pytest.fixture
def own_server(engine):
    """The application served by itself, to be stopped and started again under an open page."""
    served = {}

    def serve(port=0):
        server = uvicorn.Server(
            uvicorn.Config(create_app(engine), port=port, log_level="error", timeout_graceful_shutdown=1)
        )
        thread = threading.Thread(target=server.run, daemon=True)
        thread.start()
        while not server.started:
            time.sleep(0.01)
        served.update(server=server, thread=thread)
        return server.servers[0].sockets[0].getsockname()[1]

    def stop():
        served["server"].should_exit = True
        served["thread"].join()

    yield serve, stop
    stop()


@pytest.mark.parametrize("left", [False, True])
def test_an_edit_without_an_application_is_kept_and_sent_when_it_is_back(page, own_server, laid_in, settle, left):
    """Either the page stays open meanwhile, or it is closed and opened again."""
    serve, stop = own_server
    port = serve()
    page.goto(f"http://127.0.0.1:{port}")
    page.get_by_role("link", name="Allotment long vertical").click()
    expect(page.get_by_role("heading", name="SWR at the match")).to_be_visible()
    settle()
    stop()
    page.get_by_role("slider", name="Series coil, microhenry").press("ArrowLeft")
    expect(page.get_by_role("alert").filter(has_text="does not answer")).to_be_visible()
    expect(page.get_by_text("Not saved yet")).to_be_visible()
    value = coil(page).input_value()
    assert value != "2.28 µH"
    expect(page.locator("path.match").first).to_be_visible()  # the old picture stays
    serve(port)
    if left:
        page.reload()
    expect(page.get_by_role("status").filter(has_text=re.compile("^Saved"))).to_be_visible()
    expect(page.get_by_role("alert").filter(has_text="does not answer")).to_have_count(0)
    settle()

    page.reload()
    settle()
    expect(coil(page)).to_have_value(value)
