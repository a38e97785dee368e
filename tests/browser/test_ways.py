"""Every way to match, on the match desk: searched, stopped, picked, kept; by keyboard and on a phone."""

import os
import re
import signal

import pytest
from client_helpers import made_build
from playwright.sync_api import expect

pytestmark = pytest.mark.browser

FIVE = (3.9, 10, 22, 47, 100)


@pytest.fixture
def ways(page, address, client, settle):
    """The panel on the match desk of a build of its own."""

    def open_it(name="Allotment ways"):
        build = made_build(client, name)
        page.goto(f"{address}/builds/{build['id']}/match")
        settle()
        return page.get_by_role("region", name="Ways to match")

    return open_it


def fill_drawer(client):
    for pf in FIVE:
        values = {"type": "mica", "capacitance_f": pf * 1e-12, "voltage_v": 1000}
        client.post("/api/pieces", json={"kind": "capacitor", "name": f"{pf:g} pF", "count": 2, "values": values})
    tube = {"outer_m": 0.032, "length_m": 0.2}
    client.post("/api/pieces", json={"kind": "former", "name": "32 mm pipe", "values": tube})


def empty_drawer(client):
    for piece in client.get("/api/pieces").json():
        client.delete(f"/api/pieces/{piece['id']}", params={"revision": piece["revision"]})


def test_a_way_is_picked_from_the_front_kept_and_there_again(page, client, ways, settle):
    fill_drawer(client)
    try:
        panel = ways()
        panel.get_by_label("Parts from").select_option("drawer")
        panel.get_by_role("button", name="Search", exact=True).click()
        expect(panel.get_by_role("progressbar", name="How far the search is")).to_be_visible()
        settle()
    finally:
        empty_drawer(client)

    expect(panel.get_by_role("img", name=re.compile("best compromises"))).to_be_visible()
    row = panel.get_by_role("article").filter(has_text="T: coil, C, coil").first
    line = row.get_by_role("button").first
    # By keyboard: opened, walked on, taken.
    line.focus()
    page.keyboard.press("Enter")
    expect(line).to_have_attribute("aria-expanded", "true")
    expect(row).to_contain_text("In your drawer:")
    page.keyboard.press("Tab")
    while page.evaluate("document.activeElement.textContent").strip() != "Take it":
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    settle()
    expect(row).to_contain_text("This is on the rulers above.")
    expect(page.get_by_role("slider", name="Second series coil, microhenry")).to_be_visible()
    saved = page.get_by_role("region", name="Verdict").inner_text()

    page.reload()
    settle()
    expect(page.get_by_role("slider", name="Second series coil, microhenry")).to_be_visible()
    assert page.get_by_role("region", name="Verdict").inner_text() == saved
    page.get_by_role("button", name="Undo", exact=True).click()
    settle()
    expect(page.get_by_role("slider", name="Second series coil, microhenry")).to_have_count(0)


def test_a_search_is_stopped_and_what_it_found_stays(page, ways, settle):
    panel = ways()
    panel.get_by_role("button", name="Search", exact=True).click()
    panel.get_by_role("article").first.wait_for()
    panel.get_by_role("button", name="Stop").click()
    settle()

    expect(panel.get_by_role("button", name="Search again")).to_be_visible()
    expect(panel.get_by_role("article").first).to_be_visible()
    expect(panel).to_contain_text("what was not tried yet may be better")
    for word in ("Nothing holds", "Nothing can be made"):
        expect(panel).not_to_contain_text(word)


def test_an_empty_drawer_is_said_with_what_to_buy(page, ways, settle):
    panel = ways()
    panel.get_by_label("Parts from").select_option("drawer")
    panel.get_by_role("button", name="Search", exact=True).click()
    panel.get_by_role("article").first.wait_for()
    panel.get_by_role("button", name="Stop").click()
    settle()
    panel.get_by_role("article").first.get_by_role("button").first.click()

    expect(panel).to_contain_text("Your drawer holds nothing to match with")
    expect(panel.get_by_role("article").first).to_contain_text("To buy, prices not known:")


def test_leaving_the_desk_ends_it(page, application, ways, settle):
    panel = ways()
    panel.get_by_role("button", name="Search", exact=True).click()
    panel.get_by_role("article").first.wait_for()
    assert application[0].state.searchers.pids

    page.get_by_role("link", name=re.compile("^Sweep")).first.click()
    settle()
    for _ in range(40):
        if not application[0].state.searchers.pids:
            break
        page.wait_for_timeout(50)
    assert not application[0].state.searchers.pids


def test_a_killed_search_is_told_and_the_desk_works_on(page, application, ways, settle):
    panel = ways()
    panel.get_by_role("button", name="Search", exact=True).click()
    panel.get_by_role("article").first.wait_for()
    for pid in application[0].state.searchers.pids:
        os.kill(pid, signal.SIGKILL)
    settle()

    expect(panel).to_contain_text("the search was ended from outside: start it again")
    before = page.get_by_role("region", name="Verdict").inner_text()
    page.get_by_role("button", name="Series coil: one step more").click()
    settle()
    assert page.get_by_role("region", name="Verdict").inner_text() != before
    panel.get_by_role("button", name=re.compile("Search")).first.click()
    expect(panel.get_by_role("progressbar", name="How far the search is")).to_be_visible()
    panel.get_by_role("button", name="Stop").click()
    settle()


def test_power_beyond_every_rating_is_said_and_nothing_is_lost(page, client, ways, settle):
    fill_drawer(client)
    try:
        panel = ways()
        power = page.get_by_role("textbox", name="Power")
        power.fill("50 kW")
        power.press("Enter")
        settle()
        panel.get_by_label("Parts from").select_option("drawer")
        panel.get_by_role("button", name="Search", exact=True).click()
        settle()
    finally:
        empty_drawer(client)

    expect(panel).to_contain_text(re.compile("Nothing (holds|can be made)"))
    expect(panel).to_contain_text(re.compile(r"would\s+not\s+stand|cannot\s+stand"))
    expect(page.get_by_role("slider", name="Series coil, microhenry")).to_be_visible()


def test_on_a_phone_the_lines_and_the_picture_fit(page, client, ways, settle):
    page.set_viewport_size({"width": 390, "height": 844})
    fill_drawer(client)
    try:
        panel = ways()
        panel.get_by_label("Parts from").select_option("drawer")
        panel.get_by_role("button", name="Search", exact=True).click()
        settle()
    finally:
        empty_drawer(client)
    line = panel.get_by_role("article").first.get_by_role("button").first
    line.tap() if page.evaluate("navigator.maxTouchPoints") else line.click()

    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    assert line.bounding_box()["height"] >= 44
    expect(panel.get_by_role("button", name=re.compile("^Take it")).first).to_be_visible()
