"""Keyboard, touch, small and zoomed screens, themes, paper, screen readers: everybody gets the whole way."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

TOP = Path(__file__).parents[2]
DEMO = TOP / "yielding_coil" / "demo"
AXE = (TOP / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()
VIEWS = (
    "",
    "bands",
    "bin",
    "analyser",
    "lines",
    "sums",
    "choose",
    "any-length",
    "tuner",
    "devices",
    "predict",
    "wire",
    "trim",
    "outdoors",
    "drawer",
    "wind",
    "count",
    "sweep",
    "build",
    "log",
    "fault",
    "match",
)
THEMES = ["day", *(pytest.param(theme, marks=pytest.mark.deep) for theme in ("night", "outdoors"))]

pytestmark = pytest.mark.browser

FOCUSED = """() => {
	const e = document.activeElement;
	return (e.getAttribute('aria-label') || e.labels?.[0]?.innerText || e.innerText || '').trim();
}"""


def tab_to(page, name, most=160):
    """Press Tab until what has the focus is called so."""
    for _ in range(most):
        page.keyboard.press("Tab")
        if page.evaluate(FOCUSED).startswith(name):
            return
    raise AssertionError(f"Tab never comes to “{name}”")


def choose_by_keyboard(page, asked, path):
    """Enter on the file field; `asked` is what `files_asked` returned.

    Asking who has the focus at times uses up what lets a key open a window: then Enter is pressed again.
    """
    for attempt in range(40):
        if asked:
            asked[0].set_files(path)
            return
        if attempt % 10 == 0:
            page.keyboard.press("Enter")
        page.wait_for_timeout(500)
    raise AssertionError("Enter does not open the window for files")


def files_asked(page):
    """The windows for files that were opened, listened for from now on.

    A window that opens while nobody listens stays open, unseen, and no other opens after it.
    """
    asked = []
    page.on("filechooser", lambda chooser: asked.append(chooser))
    return asked


def open_view(page, address, view):
    """The shelf, a page beside it, or a desk of the orchard or the loft build."""
    if view in ("wire", "trim", "outdoors"):
        page.goto(address)
        page.get_by_role("link", name="Loft dipole, 12 m").click()
        page.wait_for_url(re.compile("/trim"))
        page.goto(page.url.split("/trim")[0] + f"/{view}")
    elif view == "predict":
        page.goto(address)
        page.get_by_role("link", name="Orchard end-fed").click()
        page.wait_for_url(re.compile("/wind"))
        page.goto(page.url.split("/wind")[0] + "/predict")
        page.get_by_role("heading", name="From the radio to the sky").wait_for()
    elif view in ("wind", "count"):
        page.goto(address)
        page.get_by_role("link", name="Orchard end-fed").click()
        page.get_by_role("link", name="Count with me").wait_for()
        # While answers still come in the link moves from under the pointer.
        page.locator("html[data-settled=true]").wait_for(state="attached")
        if view == "count":
            page.get_by_role("link", name="Count with me").click()
            page.get_by_role("button", name="One more turn").wait_for()
    elif view in ("sweep", "match", "build", "log", "fault"):
        page.goto(address)
        page.get_by_role("link", name="Orchard sloping wire").click()
        page.wait_for_url(re.compile("/match"))
        page.goto(page.url.split("/match")[0] + f"/{view}")
    else:
        page.goto(f"{address}/{view}")


def test_by_keyboard_alone_from_an_empty_start_to_a_saved_design_with_three_targets(page, address, settle):
    asked = files_asked(page)
    page.goto(address)
    settle()
    tab_to(page, "Choose a file")
    choose_by_keyboard(page, asked, DEMO / "orchard-feedpoint.s1p")
    expect(page.get_by_role("region", name="Verdict")).to_be_visible()
    settle()
    for band in ("15 m telegraphy", "15 m speech"):
        tab_to(page, band)
        page.keyboard.press("Enter")
        settle()
    tab_to(page, "drop 15 m")
    page.keyboard.press("Enter")
    settle()
    tab_to(page, "12 m")
    page.keyboard.press("Space")
    settle()
    page.keyboard.press("Shift+Tab")
    page.locator("body").press("3")
    expect(page.get_by_role("heading", name="SWR at the match")).to_be_visible()
    settle()
    tab_to(page, "Series capacitor, picofarad")
    page.keyboard.press("ArrowRight")
    settle()
    expect(page.get_by_role("status").filter(has_text="Saved")).to_be_visible()
    value = page.get_by_role("textbox", name=re.compile("^Series")).input_value()

    page.reload()
    settle()
    expect(page.get_by_role("textbox", name=re.compile("^Series"))).to_have_value(value)
    expect(page.get_by_role("region", name="Verdict")).to_contain_text("15 m telegraphy, 15 m speech, 12 m")


def test_by_touch_at_360_from_an_empty_start_to_a_saved_design_with_three_targets(browser, address):
    context = browser.new_context(
        viewport={"width": 360, "height": 740}, has_touch=True, is_mobile=True, reduced_motion="reduce"
    )
    page = context.new_page()

    def settled():
        page.locator("html[data-settled=true]").wait_for(state="attached")
        page.wait_for_timeout(60)

    page.goto(address)
    with page.expect_file_chooser() as chooser:
        page.get_by_text("Choose a file").tap()
    chooser.value.set_files(DEMO / "orchard-feedpoint.s1p")
    page.get_by_role("button", name="15 m telegraphy").tap()
    settled()
    page.get_by_role("button", name="15 m speech").tap()
    settled()
    page.get_by_role("button", name="12 m", exact=True).tap()
    settled()
    if page.get_by_role("button", name="drop 15 m", exact=True).count():
        page.get_by_role("button", name="drop 15 m", exact=True).tap()
        settled()
    page.get_by_role("link", name="Choose a match").tap()
    expect(page.get_by_role("heading", name="SWR at the match")).to_be_visible()
    settled()
    page.get_by_role("button", name=re.compile("one step more")).first.tap()
    expect(page.get_by_role("status").filter(has_text="Saved")).to_be_visible()
    value = page.get_by_role("textbox", name=re.compile("^Series")).input_value()
    page.reload()
    settled()

    expect(page.get_by_role("textbox", name=re.compile("^Series"))).to_have_value(value)
    expect(page.get_by_role("region", name="Verdict")).to_contain_text("12 m")
    assert page.evaluate("document.documentElement.scrollWidth") <= 360
    settled()
    context.close()


@pytest.mark.parametrize("theme", THEMES)
def test_axe_finds_nothing(page, address, laid_in, bench, settle, theme):
    """axe-core 4.14.1, its whole default set of rules, on every view with its windows open."""
    page.add_init_script(f"localStorage.setItem('theme', '{theme}')")
    found = []

    def look(where):
        settle()
        page.evaluate(AXE)
        report = page.evaluate("async () => (await axe.run()).violations")
        found.extend((where, v["id"], [n["target"] for n in v["nodes"]][:4]) for v in report)

    for view in VIEWS:
        open_view(page, address, view)
        look(view)
    page.get_by_role("button", name="Side by side").click()
    look("side by side")
    page.goto(f"{address}/analyser")
    page.get_by_role("button", name="Connect the simulated analyser").click()
    page.get_by_role("button", name="Begin with the short").click()
    page.get_by_role("button", name="Sweep the short").click()
    look("calibrating")
    page.get_by_role("button", name="3 Sweep").click()
    page.get_by_role("button", name="Sweep and keep").click()
    look("swept")
    open_view(page, address, "match")
    page.keyboard.press("Control+k")
    look("find")
    page.keyboard.press("Escape")
    page.keyboard.press("?")
    look("keys")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="About the yield").click()
    look("help")
    page.keyboard.press("Escape")
    page.goto(address)
    settle()
    page.get_by_role("button", name="Type points").click()
    look("typed points")
    assert found == []


@pytest.mark.parametrize(("width", "zoom"), [(360, 1), (1280, 2)])
def test_nothing_runs_out_of_a_small_or_zoomed_page(page, address, laid_in, settle, width, zoom):
    """200 % zoom of a 1280 page leaves 640 to it."""
    page.set_viewport_size({"width": width // zoom, "height": 800 // zoom})
    for view in VIEWS:
        open_view(page, address, view)
        settle()

        over = "document.documentElement.scrollWidth - document.documentElement.clientWidth"
        assert page.evaluate(over) <= 0, view


@pytest.mark.parametrize("size", ["A4", "Letter"])
def test_paper_is_black_on_white_without_buttons(match_desk, settle, tmp_path, size):
    page = match_desk
    page.emulate_media(media="print")

    assert page.evaluate("getComputedStyle(document.body).backgroundColor") == "rgb(255, 255, 255)"
    for name in ("Best over band", "Find", "Side by side"):
        expect(page.get_by_role("button", name=name)).to_be_hidden()
    expect(page.get_by_role("region", name="Verdict")).to_be_visible()
    page.pdf(path=tmp_path / "desk.pdf", format=size)
    assert (tmp_path / "desk.pdf").read_bytes().startswith(b"%PDF")


def test_the_keys_are_listed_and_can_rest(match_desk, settle):
    page = match_desk
    page.keyboard.press("?")
    window = page.get_by_role("dialog", name="Keys")
    expect(window).to_contain_text("along the tape")
    window.get_by_role("checkbox").uncheck()
    page.keyboard.press("Escape")
    expect(window).to_be_hidden()

    page.keyboard.press("2")
    page.keyboard.press("/")
    expect(page.get_by_role("heading", name="SWR at the match")).to_be_visible()
    expect(page.get_by_role("dialog")).to_be_hidden()
    page.keyboard.press("Control+k")
    expect(page.get_by_role("dialog", name="Find")).to_be_visible()


def test_quick_find_opens_a_part_a_desk_a_page(page, address, laid_in, settle):
    page.goto(address)
    settle()
    for text, where in (("shunt allot", "/match?design="), ("sweep orch", "/sweep"), ("bin", "/bin")):
        page.keyboard.press("Control+k")
        box = page.get_by_role("combobox", name="Find")
        settle()
        box.fill(text)
        expect(page.get_by_role("listbox").get_by_role("option").first).to_have_attribute("aria-selected", "true")
        box.press("Enter")
        page.wait_for_url(re.compile(re.escape(where)))
        settle()
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Find").fill("zzz")
    expect(page.get_by_text("Nothing here has that name")).to_be_visible()


def test_a_theme_is_kept_by_the_browser(page, address, settle):
    page.goto(address)
    ground = page.evaluate("getComputedStyle(document.body).backgroundColor")
    page.get_by_text("View", exact=True).click()
    page.get_by_role("radio", name="night").check()
    assert page.evaluate("getComputedStyle(document.body).backgroundColor") != ground
    page.reload()

    assert page.evaluate("document.documentElement.dataset.theme") == "night"


def test_help_says_what_how_whence_and_how_sure(match_desk):
    page = match_desk
    for button in page.get_by_role("button", name=re.compile("^About ")).all():
        button.click()
        window = page.get_by_role("dialog")
        for term in ("What it is", "How it is computed", "Source", "How sure"):
            expect(window.get_by_text(term, exact=True)).to_be_visible()
        page.keyboard.press("Escape")
        expect(window).to_be_hidden()
