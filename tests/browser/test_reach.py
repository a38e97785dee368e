"""Reached by thumb and by keyboard: targets, drawn words, and the focus after every act, on every page."""

import pytest
from playwright.sync_api import expect

pytestmark = pytest.mark.browser

PHONE = {"width": 390, "height": 844}
# Smaller than 44 px of what can be pressed and is no link within a sentence; drawn words smaller than 11 px; values
# that are cut off.
TOO_SMALL = """() => {
    const field = 'input:not([type=checkbox]):not([type=radio])';
    const pressed = `button, a.button, select, summary, ${field}, [role=slider]`;
    const out = [];
    for (const each of document.querySelectorAll(pressed)) {
        const { width, height } = each.getBoundingClientRect();
        if (!width || !each.checkVisibility() || each.closest('.unseen') || each.matches('p .plain')) continue;
        // Drawn small, with a larger place round it.
        const round = getComputedStyle(each, '::after').position === 'absolute' ? 20 : 0;
        if (Math.min(width, height) + round < 43.5) out.push(each.ariaLabel ?? each.textContent.trim());
    }
    for (const text of document.querySelectorAll('svg text')) {
        const { a, b } = text.getScreenCTM();
        const size = parseFloat(getComputedStyle(text).fontSize) * Math.hypot(a, b);
        if (text.checkVisibility() && size < 10.9) out.push(`${text.textContent}: ${size.toFixed(1)} px`);
    }
    for (const each of document.querySelectorAll('input[data-quantity]'))
        if (each.checkVisibility() && each.scrollWidth > each.clientWidth) out.push(`cut off: ${each.value}`);
    if (document.documentElement.scrollWidth > innerWidth) out.push('wider than the page');
    return out;
}"""
PAGES = [
    "",
    "bands",
    "lines",
    "drawer",
    "analyser",
    "bin",
    "sums",
    "choose",
    "any-length",
    "tuner",
    "devices",
    "Allotment long vertical/wire",
    "Orchard end-fed/wire",
    "Orchard end-fed/predict",
    "Orchard end-fed/build",
    "Orchard sloping wire/log",
    "Orchard sloping wire/fault",
    "Narrowboat loaded vertical/fault",
    "Narrowboat loaded vertical/wire",
    "Allotment long vertical/sweep",
    "Allotment long vertical/match",
    "Allotment long vertical/wind",
    "Orchard end-fed/wind",
    "Orchard end-fed/count",
    "Loft dipole, 12 m/trim",
    "Loft dipole, 12 m/outdoors",
    "Loft trap dipole/wind",
]


@pytest.fixture
def shown(laid_in, page, address, client, settle):
    """Goes to a page by the name of its build."""
    ids = {b["name"]: b["id"] for b in client.get("/api/builds").json()}

    def go(where):
        name, _, desk = where.rpartition("/")
        page.goto(f"{address}/builds/{ids[name]}/{desk}" if name else f"{address}/{where}")
        page.wait_for_load_state("networkidle")
        settle()

    return go


def test_on_a_phone_every_target_is_a_thumb_and_every_word_is_read(shown, page):
    page.set_viewport_size(PHONE)
    found = {}
    for where in PAGES:
        shown(where)
        found[where] = page.evaluate(TOO_SMALL)
    assert {where: small for where, small in found.items() if small} == {}


def test_on_a_phone_the_header_is_one_row_and_its_tools_open(shown, page):
    page.set_viewport_size(PHONE)
    shown("Allotment long vertical/match")
    assert page.get_by_role("banner").bounding_box()["height"] < 60
    expect(page.get_by_role("link", name="Drawer")).to_be_hidden()
    page.get_by_role("button", name="Menu").click()
    expect(page.get_by_role("link", name="Drawer")).to_be_visible()


@pytest.mark.parametrize("where", ["Orchard end-fed/wind", "Loft trap dipole/wind"])
def test_on_a_phone_picture_and_cut_follow_the_verdict_and_advice_comes_last(shown, page, where):
    page.set_viewport_size(PHONE)
    shown(where)
    told = (
        page.get_by_role("region", name="Verdict"),
        page.get_by_role("button", name="Print it"),
        page.get_by_role("heading", name="Cut before you start"),
        page.get_by_text("Cores and resistors get hot"),
        page.get_by_role("heading", name="Made of"),
        page.get_by_role("heading", name="Goes into"),
    )
    heights = [each.first.bounding_box()["y"] for each in told]
    assert heights == sorted(heights)


def focused(page):
    """What has the focus, in words."""
    page.wait_for_timeout(120)
    return page.evaluate(
        "document.activeElement === document.body ? null"
        " : document.activeElement.ariaLabel ?? document.activeElement.textContent.trim().slice(0, 40)"
    )


def test_the_focus_stays_where_one_works(shown, page, settle):
    """Rename, bin, take back, undo, a winding begun: each takes away what was pressed."""

    def press(name, *, exact=True):
        page.get_by_role("button", name=name, exact=exact).first.focus()
        page.keyboard.press("Enter")
        settle()
        # What is out of use for a moment is waited for, less than half a second.
        page.wait_for_timeout(500)
        assert focused(page) is not None, name

    shown("Allotment long vertical/match")
    press("Rename the build")
    page.keyboard.press("Escape")
    assert focused(page) is not None
    page.get_by_role("slider", name="Series coil").focus()
    page.keyboard.press("ArrowRight")
    settle()
    for name in ("Undo", "Redo", "Undo"):
        press(name)
    press("C in series, coil across the wire")
    press("Best over band")
    press("Duplicate", exact=False)
    shown("")
    press("Put Loft trap dipole in the bin", exact=False)
    shown("bin")
    press("Take", exact=False)
