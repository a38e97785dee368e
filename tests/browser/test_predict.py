"""Predict: where the watts go, band by band; another coax; a tuner at the radio; the plain sums of a line."""

import re

import pytest
from client_helpers import made_build
from playwright.sync_api import expect

pytestmark = pytest.mark.browser


def enter(page, settle, name, text):
    field = page.get_by_role("textbox", name=name, exact=True)
    field.fill(text)
    field.press("Enter")
    settle()


def verdict(page):
    return page.get_by_role("region", name="Verdict")


@pytest.fixture
def predict(page, address, client, settle):
    """The predict desk of a build that has a sweep and no design yet."""
    build = made_build(client, "Allotment watts")
    page.goto(f"{address}/builds/{build['id']}/predict")
    settle()
    return page


def begun(page, settle):
    page.get_by_role("button", name="Predict it on 15 m of coax").click()
    settle()
    return page.get_by_role("region", name="From the radio to the sky")


def test_from_no_design_to_a_tuner_that_is_kept(predict, settle):
    page = predict
    rows = begun(page, settle)
    expect(rows.get_by_role("img")).to_have_count(1)
    expect(verdict(page)).to_contain_text("goes into the wire")

    places = page.get_by_role("region", name="A tuner, where?")
    places.get_by_role("button", name="Put a tuner at the radio").click()
    settle()
    expect(rows).to_contain_text("W tuner")
    expect(rows).to_contain_text("SWR 1.00 ·")
    expect(places).to_contain_text("least loss")
    # What it leaves: the line as it is.
    cells = places.get_by_role("table").first.get_by_role("row")
    on_line = [cells.nth(i).get_by_role("cell").nth(1).inner_text() for i in (1, 2)]
    assert on_line[0] == on_line[1]

    enter(page, settle, "Length of coax", "9 m")
    expect(page.get_by_role("status").filter(has_text="Saved")).to_be_visible()
    page.reload()
    settle()
    expect(page.get_by_role("textbox", name="Length of coax")).to_have_value(re.compile("^9"))
    expect(rows).to_contain_text("W tuner")
    page.get_by_role("button", name="Undo").click()
    settle()
    expect(page.get_by_role("textbox", name="Length of coax")).to_have_value(re.compile("^15"))


def test_the_better_coax_is_taken_and_the_meter_reads_worse(predict, settle):
    page = predict
    begun(page, settle)
    enter(page, settle, "Length of coax", "30 m")
    said = page.get_by_role("region", name="Another coax")
    expect(said).to_contain_text(re.compile(r"With .* more go up, and the meter reads worse"))
    before = float(verdict(page).locator(".figure").inner_text().split()[0])
    verdict(page).get_by_role("button").filter(has_text="W").first.click()
    settle()

    assert float(verdict(page).locator(".figure").inner_text().split()[0]) > before + 5


def test_by_keyboard_to_a_place_of_the_ribbon(predict, settle):
    """What is seen both ways from a station, said as it is pointed at."""
    page = predict
    begun(page, settle)
    words = page.get_by_role("region", name="In plain words")
    place = page.get_by_role("button", name=re.compile("below the coax"))
    place.focus()
    expect(words).to_contain_text("Seen below the coax")
    expect(words).to_contain_text("50 + j0.0 Ω downwards")
    page.keyboard.press("Tab")
    expect(words).to_contain_text("at the wire's terminals")
    expect(words).to_contain_text("One school sees those")


def test_a_tuner_that_cannot_says_the_nearest_and_a_bad_stop_is_refused(predict, settle):
    page = predict
    begun(page, settle)
    places = page.get_by_role("region", name="A tuner, where?")
    places.get_by_role("button", name="Put a tuner at the radio").click()
    settle()
    places.get_by_text("What it can be set to").click()
    for name, text in (
        ("Radio capacitor to", "16 pF"),
        ("Antenna capacitor to", "16 pF"),
        ("Coil to", "0.16 µH"),
    ):
        enter(page, settle, name, text)
    expect(places).to_contain_text("This tuner cannot match")
    expect(places).to_contain_text("As near as it comes the radio sees")
    enter(page, settle, "Coil to", "nonsense")
    expect(places.get_by_role("textbox", name="Coil to")).to_have_value("nonsense")
    enter(page, settle, "Coil to", "0.1 µH")
    expect(page.get_by_text("above the lower stop").first).to_be_visible()


def test_the_plain_sums_by_keyboard(page, address, settle):
    page.goto(f"{address}/sums")
    settle()
    expect(verdict(page)).to_contain_text("2.45")
    expect(verdict(page)).to_contain_text("0.33 dB more")
    expect(verdict(page)).to_contain_text("8.72 : 1")
    expect(page.get_by_text("practice reads 2.4 to 2.5")).to_be_visible()
    enter(page, settle, "SWR read", "9")
    expect(page.get_by_text("not even an open end")).to_be_visible()
    expect(page.get_by_role("textbox", name="SWR read")).to_have_value("9.00")
    enter(page, settle, "SWR read", "2 : 1")
    enter(page, settle, "Line, matched loss", "3 dB")
    expect(verdict(page)).to_contain_text("3.01 : 1")
    enter(page, settle, "R", "0")
    expect(page.get_by_text("without R no power is taken")).to_be_visible()


def test_two_readings_of_one_antenna(page, address, settle):
    page.goto(f"{address}/sums")
    settle()
    two = page.get_by_role("region", name="Two readings of one antenna")
    expect(two).to_contain_text("Loss explains it")
    enter(page, settle, "Second SWR", "1.3")
    expect(two).to_contain_text("Loss does not explain it")
    enter(page, settle, "Second, length", "0")
    expect(two).to_contain_text("a line of no length changes nothing")


def test_a_length_by_its_slider_is_drawn_while_dragged_and_kept_when_let_go(predict, settle):
    page = predict
    begun(page, settle)
    slider = page.get_by_role("slider", name="Length of coax, dragged")
    slider.scroll_into_view_if_needed()
    box = slider.bounding_box()
    middle = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + box["width"] / 2, middle)
    page.mouse.down()
    page.mouse.move(box["x"] + 0.7 * box["width"], middle, steps=6)
    field = page.get_by_role("textbox", name="Length of coax")
    expect(field).not_to_have_value(re.compile(r"^15"))
    # The picture keeps its scale while it is dragged: 30 m at its edge.
    picture = page.get_by_role("region", name="Another coax").get_by_role("img")
    expect(picture.get_by_text("30.0 m", exact=True)).to_be_visible()
    page.mouse.up()
    settle()
    expect(page.get_by_role("status").filter(has_text="Saved")).to_be_visible()
    kept = field.input_value()
    page.reload()
    settle()
    expect(field).to_have_value(kept)


def test_the_chart_shows_which_way_a_part_moves_the_band(match_desk, settle):
    """Held by its key, or pointed at: a ribbon each for more and less of it."""
    page = match_desk
    chart = page.get_by_role("img", name=re.compile("^Chart of the reflection coefficient"))
    page.locator("main").click(position={"x": 2, "y": 2})
    page.keyboard.down("a")
    expect(chart.get_by_text("more coil")).to_be_visible()
    expect(chart.get_by_text("less coil")).to_be_visible()
    page.keyboard.up("a")
    expect(chart.get_by_text("more coil")).to_have_count(0)
    page.get_by_role("region", name=re.compile("[Cc]apacitor")).first.hover()
    expect(chart.get_by_text(re.compile("^more coax C"))).to_be_visible()
    # Each part's way has its direction, and circles of equal SWR their number.
    assert chart.locator("path.road[marker-end]").count() == 2
    expect(chart.get_by_text("1.5", exact=True)).to_be_visible()
