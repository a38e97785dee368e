"""The page of devices: a code that a phone uses up, a phone sent away, analysers that are allowed or refused."""

import re
from pathlib import Path

import pytest
from page_helpers import button
from playwright.sync_api import expect

pytestmark = pytest.mark.browser

AXE = (Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()
CODE = re.compile(r"^[2-9A-HJKMNP-Z]{4}-[2-9A-HJKMNP-Z]{4}$")


def test_a_phone_is_paired_listed_and_sent_away(page, address, outside, settle):
    page.goto(f"{address}/devices")
    settle()
    expect(page.get_by_text("None yet, beside this computer.")).to_be_visible()
    button(page, "Pair a device").click()
    settle()
    first = page.get_by_text(CODE).text_content()
    button(page, "Another code").click()
    settle()
    code = page.get_by_text(CODE).text_content()
    assert code != first
    picture = page.get_by_alt_text("The same as a QR code: look at it with the camera of the device")
    assert picture.evaluate("image => image.complete && image.naturalWidth > 0")

    phone = outside()
    assert phone.post("/pair", data={"code": first, "name": "Phone"}).status_code == 422
    assert phone.post("/pair", data={"code": code, "name": "Phone"}).status_code == 303
    expect(page.get_by_text("It is paired.")).to_be_visible()
    expect(page.get_by_text("last here just now, paired just now")).to_be_visible()
    button(page, "Send away Phone").click()
    settle()

    expect(page.get_by_text("None yet, beside this computer.")).to_be_visible()
    page.wait_for_timeout(600)
    assert phone.get("/api/builds").status_code == 401


def test_analysers_that_phones_may_connect_to(page, address, outside, client, settle):
    page.goto(f"{address}/devices")
    settle()
    field = page.get_by_label("host:port, or a serial port")
    field.fill("bench")
    field.press("Enter")
    settle()
    expect(page.get_by_role("alert")).to_contain_text("“bench”; it must be host:port")
    # What was typed is still there, to be put right.
    expect(field).to_have_value("bench")
    field.fill("Bench.local:5025")
    button(page, "Allow it").click()
    settle()
    expect(page.get_by_text("bench.local:5025")).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)
    button(page, "Remove bench.local:5025").click()
    settle()

    assert client.get("/api/devices").json()["analysers"] == []


def test_where_only_this_computer_is_served_it_says_what_to_do(page, address, settle):
    page.goto(f"{address}/devices")
    settle()

    expect(page.get_by_role("heading", name="Only this computer is served")).to_be_visible()
    expect(page.get_by_role("rowheader", name="./start --https")).to_be_visible()
    expect(button(page, "Pair a device")).to_have_count(0)


@pytest.mark.deep
def test_the_form_that_pairs_is_for_everybody(browser, outside, address):
    """axe finds nothing in it; it is one column at 320 px, and its fields are thumbs."""
    context = browser.new_context(viewport={"width": 320, "height": 640}, bypass_csp=True)
    page = context.new_page()
    page.set_content(outside().get("/pair", params={"code": "KXR4-92MP"}).text)
    page.evaluate(AXE)
    found = page.evaluate("axe.run().then((r) => r.violations.map((v) => v.id))")
    pressed = "[...document.querySelectorAll('input:not([type=hidden]), button')]"
    small = page.evaluate(f"{pressed}.filter((e) => e.offsetHeight < 44).length")

    assert found == []
    assert small == 0
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    context.close()
