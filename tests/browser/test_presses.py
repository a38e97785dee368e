"""A press belongs to what it began on, though the page moves under it; who slips off it has thought better."""

import pytest

pytestmark = pytest.mark.browser

# What comes in above what is pressed, as an answer would, while the button of the mouse is down.
MOVES = """() => document.addEventListener('pointerdown', () => {
    const above = document.createElement('div');
    above.style.height = '120px';
    document.querySelector('main').prepend(above);
}, { once: true })"""


@pytest.fixture
def any_length(page, address, settle):
    page.goto(f"{address}/any-length")
    settle()
    return page


def press(page, pressed, *, slips=0):
    """A press of a person's length, at whose end the pointer is so many pixels aside."""
    box = pressed.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.wait_for_timeout(100)
    page.mouse.move(x + slips, y)
    page.mouse.up()
    assert slips or pressed.bounding_box()["y"] > box["y"] + box["height"]


def test_a_button_that_moves_while_it_is_pressed_is_pressed(any_length, client, settle):
    any_length.evaluate(MOVES)
    press(any_length, any_length.get_by_role("button", name="Plan this one", exact=True))
    any_length.wait_for_url("**/wire")
    settle()
    assert client.get("/api/builds").json()


def test_a_box_to_tick_that_moves_is_ticked_once(any_length):
    any_length.evaluate(MOVES)
    covered = any_length.get_by_role("checkbox", name="covered wire")
    press(any_length, covered)
    assert not covered.is_checked()


def test_who_slips_off_a_button_has_not_pressed_it(any_length, client, settle):
    press(any_length, any_length.get_by_role("button", name="Plan this one", exact=True), slips=140)
    settle()
    assert any_length.url.endswith("/any-length")
    assert client.get("/api/builds").json() == []


def test_text_is_marked_by_the_mouse_as_ever(any_length):
    field = any_length.get_by_role("textbox", name="Another", exact=True)
    box = field.bounding_box()
    y = box["y"] + box["height"] / 2
    any_length.mouse.move(box["x"] + box["width"] - 4, y)
    any_length.mouse.down()
    any_length.mouse.move(box["x"] + 2, y, steps=5)
    any_length.mouse.up()
    assert field.evaluate("field => field.selectionEnd - field.selectionStart") > 2
