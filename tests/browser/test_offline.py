"""A phone in the garden whose network goes and comes back: nothing lost, nothing twice, and it opens without it."""

import re

import pytest
from client_helpers import hung, trim_of, wire_build
from garden import HOUSE, ip, standing_in
from page_helpers import button
from patience import PATIENCE_S
from playwright.sync_api import expect

pytestmark = [pytest.mark.browser, pytest.mark.deep]

PHONE = {"width": 390, "height": 844}
TEN_MINUTES_MS = 600_000
# The first entry arrives, and its answer does not.
LOSE_THE_FIRST = """
    const whole = window.fetch;
    window.lost = 0;
    window.fetch = async (...asked) => {
        const url = asked[0].url ?? asked[0];
        const got = await whole(...asked);
        if (!url.endsWith('/entries') || window.lost > 0) return got;
        window.lost += 1;
        throw new TypeError('network changed');
    };
"""


@pytest.fixture(scope="module")
def garden_browser(browser_type, browser_type_launch_args, places, house, tmp_path_factory):
    """A browser in the garden; what it gets from the house counts as encrypted, where a test says so."""
    script = tmp_path_factory.mktemp("garden") / "chromium"
    script.write_text(f'#!/bin/sh\nexec ip netns exec {places[1]} /usr/bin/chromium "$@"\n')
    script.chmod(0o755)
    opened = []

    def launch(*, encrypted):
        origin = f"http://{HOUSE}:{house.base_url.port}"
        more = [f"--unsafely-treat-insecure-origin-as-secure={origin}"] if encrypted else []
        args = [*browser_type_launch_args["args"], *more]
        opened.append(
            browser_type.launch(**{**browser_type_launch_args, "executable_path": str(script), "args": args})
        )
        return opened[-1]

    yield launch
    for each in opened:
        each.close()


@pytest.fixture
def wire(house, places):
    """A wire that hangs, to be trimmed by hand."""
    with standing_in(places[0]):
        build = wire_build(house, stop="dip", name="Loft")
        hung(house, build, 3.0)
    return build


def phone_of(opened, house, places, build, stands="Read the dip"):
    """A paired phone on the outdoors view, when that stands there."""
    with standing_in(places[0]):
        code = house.post("/api/pairings", json={}).json()["code"]
    context = opened.new_context(viewport=PHONE, locale="en-GB", reduced_motion="reduce", has_touch=True)
    context.set_default_timeout(PATIENCE_S * 1e3)
    page = context.new_page()
    page.goto(f"http://{HOUSE}:{house.base_url.port}/builds/{build['id']}/outdoors")
    page.get_by_label("Code shown there").fill(code)
    page.get_by_role("button", name="Pair").click()
    page.get_by_text(stands, exact=True).wait_for()
    return page


def cut(places):
    ip("-n", places[1], "link", "set", "veth0", "down")


def mend(places):
    ip("-n", places[1], "link", "set", "veth0", "up")


def read_dip(page, by):
    """The dip is read by hand, so many steps of 100 kHz away."""
    name = "+ 100 kHz" if by > 0 else "− 100 kHz"
    for _ in range(abs(by)):
        button(page, name).click()
    page.get_by_role("button", name=re.compile("The dip is at")).click()


def told(house, places, build):
    """Kinds of the log after the hanging, with the dip of each reading."""
    with standing_in(places[0]):
        entries = house.get(f"/api/builds/{build['id']}/entries").json()
    return [(e["data"]["kind"], (e["data"].get("reading") or {}).get("dip_hz")) for e in entries[1:]]


def test_cut_off_for_ten_minutes_in_the_middle_of_a_trim(garden_browser, house, places, wire):
    page = phone_of(garden_browser(encrypted=False), house, places, wire)
    page.clock.install()
    page.reload()
    page.get_by_text("Leave this page open").wait_for()
    button(page, "I read the dip myself").click()
    read_dip(page, -7)
    expect(page.get_by_text("Fold back", exact=True)).to_be_visible()
    cut(places)
    try:
        button(page, "Done. Read again").click()
        expect(page.get_by_text("On this phone, not sent yet: 1")).to_be_visible()
        # Typed as people write it, with nobody to ask how that is read.
        page.get_by_role("textbox", name="Dip at").fill("24.6 furlongs")
        page.keyboard.press("Enter")
        expect(page.get_by_text("write a number and its unit, as in 21.2 MHz")).to_be_visible()
        page.get_by_role("textbox", name="Dip at").fill("24610 kHz")
        page.get_by_label("SWR there").fill("1.3 : 1")
        read_dip(page, 0)
        expect(page.get_by_text("On this phone, not sent yet: 2")).to_be_visible()
        # No advice is made up here.
        expect(page.get_by_text("Kept. What to do next is worked out when")).to_be_visible()
        button(page, "I did something more").click()
        button(page, "That is what I did").click()
        read_dip(page, 1)
        button(page, "Read it once more").click()
        read_dip(page, 1)
        page.get_by_role("button", name=re.compile("^Undo: dip")).click()
        expect(page.get_by_text("On this phone, not sent yet: 4")).to_be_visible()
        page.clock.fast_forward(TEN_MINUTES_MS)
        expect(page.get_by_text("The computer is not reached from here")).to_be_visible()
        assert len(told(house, places, wire)) == 1
    finally:
        mend(places)
    expect(page.get_by_text("not sent yet")).to_have_count(0)
    expect(page.get_by_text("The computer is not reached from here")).to_have_count(0)

    found = told(house, places, wire)
    assert [kind for kind, _ in found] == ["reading", "cut", "reading", "cut", "reading"]
    assert found[2][1] == 24.61e6
    with standing_in(places[0]):
        assert trim_of(house, wire)["rounds"] == 2
    page.context.close()


def test_an_answer_that_was_lost_is_not_an_entry_more(garden_browser, house, places, wire):
    """It arrived, and the network went before the answer was there."""
    page = phone_of(garden_browser(encrypted=False), house, places, wire)
    page.add_init_script(LOSE_THE_FIRST)
    page.reload()
    page.get_by_text("Read the dip", exact=True).wait_for()
    button(page, "I read the dip myself").click()
    read_dip(page, -3)
    expect(page.get_by_text("not sent yet")).to_have_count(0)
    expect(page.get_by_text("Fold back", exact=True)).to_be_visible()

    assert page.evaluate("window.lost") == 1
    assert [kind for kind, _ in told(house, places, wire)] == ["reading"]
    page.context.close()


def test_encrypted_it_opens_cut_off_and_sends_what_a_closed_page_left(garden_browser, house, places):
    with standing_in(places[0]):
        wire = wire_build(house, stop="dip", name="Loft")
    page = phone_of(garden_browser(encrypted=True), house, places, wire, stands="How long is it as it hangs?")
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.reload()  # now its answers come through what the phone keeps
    page.get_by_label("One leg", exact=True).wait_for()
    address = page.url
    cut(places)
    try:
        page.goto(address)
        page.get_by_text("The computer is not reached from here").wait_for()
        page.get_by_label("One leg", exact=True).fill("3.02 m")
        button(page, "So it hangs").click()
        expect(page.get_by_text("Read the dip", exact=True)).to_be_visible()
        button(page, "I read the dip myself").click()
        read_dip(page, -2)
        expect(page.get_by_text("On this phone, not sent yet: 2")).to_be_visible()
        page.close()
        other = page.context.new_page()
        other.goto(address)
        expect(other.get_by_text("On this phone, not sent yet: 2")).to_be_visible()
    finally:
        mend(places)
    expect(other.get_by_text("not sent yet")).to_have_count(0)

    assert [kind for kind, _ in told(house, places, wire)] == ["reading"]
    with standing_in(places[0]):
        assert trim_of(house, wire)["links"][0]["leg_m"] == 3.02
    # It may be put on the home screen: a name, icons, a start of its own.
    manifest = other.evaluate("fetch(document.querySelector('link[rel=manifest]').href).then((r) => r.json())")
    assert manifest["display"] == "standalone"
    other.context.close()


def test_sent_away_a_phone_keeps_nothing_of_what_it_saw(garden_browser, house, places, wire):
    page = phone_of(garden_browser(encrypted=True), house, places, wire)
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.reload()
    page.get_by_text("Read the dip", exact=True).wait_for()
    kept = "caches.open('answers').then((c) => c.keys()).then((k) => k.length)"
    assert page.evaluate(kept) > 0
    with standing_in(places[0]):
        for device in house.get("/api/devices").json()["devices"]:
            house.delete(f"/api/devices/{device['id']}").raise_for_status()
    page.wait_for_timeout(600)
    page.reload()

    expect(page.get_by_label("Code shown there")).to_be_visible()
    assert page.evaluate("caches.has('answers')") is False
    page.context.close()


def test_a_page_of_another_site_posts_forms_in_vain(garden_browser, house, places, wire):
    """In a browser that is paired: a form, an image and a script of another page get nothing and change nothing."""
    page = phone_of(garden_browser(encrypted=False), house, places, wire)
    host = f"http://{HOUSE}:{house.base_url.port}"
    acts = (f"{host}/api/builds", f"{host}/pair", f"{host}/api/builds/{wire['id']}/restore")
    forms = "".join(f'<form method=post action="{act}"><input name=x><button>Go</button></form>' for act in acts)
    asking = f"<script>fetch('{host}/api/builds').then(() => got = 1, () => got = 0)</script>"
    body = f"<script>var got, seen;</script>{forms}{asking}<img src='{host}/api/builds' onload='seen = 1'>"
    page.route("http://evil.example/**", lambda route: route.fulfill(body=body, content_type="text/html"))
    said = []
    for number in range(len(acts)):
        page.goto("http://evil.example/")
        with page.expect_navigation() as gone:
            page.get_by_role("button", name="Go").nth(number).click()
        said.append((gone.value.status, gone.value.json()["code"]))
    page.goto("http://evil.example/")
    page.wait_for_timeout(300)

    assert said == [(403, "foreign")] * len(acts)
    assert page.evaluate("[got, seen]") == [0, None]
    with standing_in(places[0]):
        assert [b["name"] for b in house.get("/api/builds").json() if b["id"] == wire["id"]] == ["Loft"]
    page.context.close()
