"""At the tuner: practised by chart and by keyboard to a match; out of line it is told; the band's compromise."""

import re

import pytest
from playwright.sync_api import expect

pytestmark = pytest.mark.browser


@pytest.fixture
def practice(page, address, bench, settle):
    """The tuner page with the simulated bench, before a round."""

    def begin(number=0):
        page.goto(f"{address}/tuner")
        settle()
        start = page.get_by_role("button", name="Practise on the simulated bench")
        if start.count():
            start.focus()
            page.keyboard.press("Enter")
        settle()
        if number:
            page.get_by_label("Antenna", exact=True).select_option(str(number))
            settle()
        return page.get_by_role("region", name="Verdict")

    return begin


def do_as_told(page, settle, verdict):
    """Asks for the next turn and does it, by keyboard alone; False where there is none."""
    ask = verdict.get_by_role("button", name="Which knob, which way?")
    if not ask.count():
        return False
    ask.focus()
    page.keyboard.press("Enter")
    told = re.match(r"Turn the (.*?): \w+, to about (.*)\.$", verdict.locator(".next").inner_text())
    field = page.get_by_role("textbox", name=told[1], exact=True)
    field.focus()
    page.keyboard.press("Control+a")
    page.keyboard.type(told[2])
    page.keyboard.press("Enter")
    settle()
    return True


def test_practised_to_a_match_by_the_chart_and_by_keyboard(page, practice, settle):
    verdict = practice()
    expect(page.get_by_role("img", name=re.compile("nothing turned yet"))).to_be_visible()
    for _ in range(10):
        if not do_as_told(page, settle, verdict):
            break

    expect(verdict).to_contain_text("Matched:")
    ways = page.get_by_role("region", name="Your way and the shortest")
    expect(ways).to_contain_text("would have done")
    expect(page.get_by_role("img", name=re.compile(r"after \d turn"))).to_be_visible()
    page.get_by_role("button", name="Average for the record").click()
    settle()
    expect(page.get_by_text("averaged over 16 passes")).to_be_visible()
    for _ in range(5):  # where a gust took it further than a turn would
        if not do_as_told(page, settle, verdict):
            break
    page.get_by_role("button", name="Next antenna").click()
    settle()
    expect(verdict).to_contain_text("0 turns so far")


def test_a_knob_by_its_keys_and_by_magnitude_alone(page, practice, settle):
    practice()
    page.get_by_role("button", name="by magnitude alone").click()
    expect(page.get_by_role("img", name=re.compile("return loss"))).to_be_visible()
    dial = page.get_by_role("slider", name="coil, dial")
    before = page.get_by_role("textbox", name="coil", exact=True).input_value()
    dial.focus()
    for _ in range(5):
        page.keyboard.press("PageDown")
    settle()

    assert page.get_by_role("textbox", name="coil", exact=True).input_value() != before
    expect(page.get_by_role("region", name="Verdict")).not_to_contain_text("0 turns so far")


def test_a_tuner_out_of_line_is_told(page, practice, settle):
    """The third round begins with the power passing by: common practice's "nothing moves"."""
    verdict = practice(2)
    expect(page.get_by_label("The tuner is in line")).not_to_be_checked()
    for _ in range(4):
        if not do_as_told(page, settle, verdict):
            break
    expect(verdict).to_contain_text("Nothing moved. Is the tuner in line?")
    page.get_by_label("The tuner is in line").check()
    settle()
    expect(verdict).not_to_contain_text("Nothing moved")


def test_the_bands_compromise_is_reached_and_named(page, practice, settle):
    verdict = practice(7)
    verdict.get_by_label("the whole band").check()
    settle()
    for _ in range(14):
        if not do_as_told(page, settle, verdict):
            break

    expect(verdict).to_contain_text("This is the band's compromise")
    expect(verdict).to_contain_text("no setting holds the whole band better")


def test_a_dial_beyond_its_stops_stands_at_the_stop(page, practice, settle):
    practice()
    field = page.get_by_role("textbox", name="coil", exact=True)
    field.fill("90 µH")
    field.press("Enter")
    settle()
    expect(field).to_have_value("25.0 µH")
    field.fill("nonsense")
    field.press("Enter")
    settle()
    expect(field).to_have_value("nonsense")
