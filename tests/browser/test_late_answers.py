"""A late answer never lands: on every desk the first of two questions is answered last."""

import re

import pytest
from client_helpers import connected
from page_helpers import far_end
from playwright.sync_api import expect

pytestmark = pytest.mark.browser

# Everything that a desk shows but the clock: its words, what stands in its fields, and what is drawn.
SHOWN = """() => JSON.stringify([
	document.querySelector('main').innerText.replace(/Saved [0-9:]+/g, ''),
	[...document.querySelectorAll('main input, main select')].map((e) => e.value),
	[...document.querySelectorAll('main svg path')].map((e) => e.getAttribute('d'))
])"""


class Late:
    """Holds the answer to the first question of a kind back while later ones are answered."""

    def __init__(self, page, pattern):
        self.page, self.pattern = page, pattern
        self.held = self.first = None
        self.under_way = set()
        page.on("request", lambda request: self.under_way.add(request))
        for end in ("requestfinished", "requestfailed"):
            page.on(end, lambda request: self.under_way.discard(request))
        page.route(pattern, self._first)

    def _first(self, route):
        if self.first is None:
            # Before it is fetched: the second question may come while the first is still computed.
            self.first = route.request
            self.held = route, route.fetch()
        else:
            route.continue_()

    def rest(self):
        """What is shown once nothing but the answer held back is under way and the page has stopped changing."""
        seen = []
        for _ in range(300):
            self.page.wait_for_timeout(100)
            busy = self.under_way - {self.first}
            seen = [] if busy else [*seen[-2:], self.page.evaluate(SHOWN)]
            if len(seen) == 3 and seen[0] == seen[1] == seen[2]:
                return seen[-1]
        waiting = [request.url for request in self.under_way]
        raise AssertionError(f"the page does not come to rest; under way: {waiting}")

    def release(self):
        route, answer = self.held
        with self.page.expect_response(self.pattern):
            route.fulfill(response=answer)
        self.page.unroute(self.pattern)


def quiet(page, settle):
    settle()
    return page.evaluate(SHOWN)


def enter(field, text):
    field.fill(text)
    field.press("Enter")


def build_called(client, name):
    return next(b for b in client.get("/api/builds").json() if b["name"] == name)


def open_desk(page, address, client, name, stage, query=""):
    page.goto(f"{address}/builds/{build_called(client, name)['id']}/{stage}{query}")


# A desk: how to come there, whose answers come late, and two questions.
def wire(page, address, client):
    open_desk(page, address, client, "Allotment long vertical", "wire")
    height = page.get_by_role("textbox", name="height", exact=True)
    return "**/api/structures/*es", lambda: enter(height, "9 m"), lambda: enter(height, "6 m")


def sweep(page, address, client):
    open_desk(page, address, client, "Allotment long vertical", "sweep")
    shown = page.get_by_role("radio", name=re.compile("^show"))
    return re.compile("/api/sweeps/[^/]+/readings$"), lambda: shown.nth(1).check(), lambda: shown.nth(0).check()


def plane(page, address, client):
    open_desk(page, address, client, "Allotment long vertical", "sweep")
    page.get_by_role("radio", name="show allotment-shack").check()
    page.get_by_role("button", name="Move it to the feedpoint").click()
    length = page.get_by_role("region", name="The plane moved").get_by_label("Length", exact=True)
    return "**/api/plane-shifts", lambda: enter(length, "5 m"), lambda: enter(length, "9 m")


def match(page, address, client):
    open_desk(page, address, client, "Allotment long vertical", "match")
    coil = page.get_by_role("textbox", name="Series coil")
    return "**/api/predictions", lambda: enter(coil, "2u1"), lambda: enter(coil, "2u4")


def winding(page, address, client):
    open_desk(page, address, client, "Orchard end-fed", "wind")
    turns = page.get_by_label("in", exact=True)
    return "**/api/windings", lambda: enter(turns, "18"), lambda: enter(turns, "20")


def compared_windings(page, address, client):
    open_desk(page, address, client, "Orchard end-fed", "wind")
    choice = page.get_by_label("Compare with")
    return "**/api/windings", lambda: choice.select_option(index=2), lambda: choice.select_option(index=3)


def trim(page, address, client):
    open_desk(page, address, client, "Loft dipole, 12 m", "trim")
    ways = page.get_by_role("group", name="How to shorten")
    return (
        re.compile(r"/trim\?"),
        lambda: ways.get_by_role("button", name="by cutting").click(),
        lambda: ways.get_by_role("button", name="by folding").click(),
    )


def drawer(page, address, client):
    page.goto(f"{address}/drawer?kind=capacitor")
    wanted = page.get_by_role("region", name="Make one of two").get_by_label("Wanted")
    return "**/api/combinations", lambda: enter(wanted, "47p"), lambda: enter(wanted, "90p")


def bands(page, address, client):
    page.goto(f"{address}/bands")
    low = page.get_by_label("15 m, from", exact=True)
    high = page.get_by_label("15 m, to", exact=True)
    return "**/api/tables/bands", lambda: enter(low, "21.01"), lambda: enter(high, "21.40")


def analyser(page, address, client):
    connected(client)
    page.goto(f"{address}/analyser")
    thing = page.get_by_label("What is screwed on")
    return "**/api/analyser/bench", lambda: thing.select_option("open"), lambda: thing.select_option("load")


def line(page, address, client):
    page.goto(f"{address}/lines")
    page.get_by_label("A file of it: far end open").set_input_files(far_end("open"))
    page.get_by_label("A file of it: far end shorted").set_input_files(far_end("shorted"))
    length = page.get_by_label("Length by the tape", exact=True)
    return "**/api/lines", lambda: enter(length, "17 m"), lambda: enter(length, "18 m")


def predict(page, address, client):
    open_desk(page, address, client, "Allotment long vertical", "predict")
    length = page.get_by_role("textbox", name="Length of coax")
    return "**/api/predictions/bands", lambda: enter(length, "5 m"), lambda: enter(length, "9 m")


def sums(page, address, client):
    page.goto(f"{address}/sums")
    read = page.get_by_role("textbox", name="SWR read")
    return "**/api/line-sums", lambda: enter(read, "1.5"), lambda: enter(read, "3")


def any_length(page, address, client):
    page.goto(f"{address}/any-length")
    another = page.get_by_role("textbox", name="Another")
    return "**/api/any-lengths/*", lambda: enter(another, "13 m"), lambda: enter(another, "15.5 m")


def fault(page, address, client):
    open_desk(page, address, client, "Narrowboat loaded vertical", "fault")
    page.get_by_role("button", name="Look for it").click()
    page.get_by_role("heading", name="Order of search").wait_for()
    # The first sweep is left out: then the order of search decides which test comes next.
    page.get_by_role("button", name="Go on without it").click()
    order = page.get_by_role("group", name="Order of search")
    return (
        re.compile(r"/fault\?"),
        lambda: order.get_by_role("button", name="line first").click(),
        lambda: order.get_by_role("button", name="antenna first").click(),
    )


DESKS = [
    fault,
    wire,
    sweep,
    plane,
    match,
    predict,
    sums,
    any_length,
    winding,
    compared_windings,
    trim,
    drawer,
    bands,
    analyser,
    line,
]


@pytest.mark.parametrize("desk", DESKS, ids=lambda desk: desk.__name__)
def test_a_late_answer_never_lands(page, address, client, laid_in, bench, settle, desk):
    pattern, first, second = desk(page, address, client)
    settle()
    first()
    of_first = quiet(page, settle)
    second()
    of_second = quiet(page, settle)
    assert of_first != of_second

    late = Late(page, pattern)
    first()
    page.wait_for_timeout(100)
    second()
    shown = late.rest()
    late.release()
    settle()
    assert page.evaluate(SHOWN) == shown


def test_the_old_picture_stays_whole_while_the_next_is_asked(page, address, client, laid_in, settle):
    open_desk(page, address, client, "Allotment long vertical", "sweep")
    settle()
    pictures = [page.get_by_role("img", name="Resistance and reactance"), page.locator("main ol").first]
    before = [picture.inner_html() for picture in pictures]
    late = Late(page, re.compile("/api/sweeps/[^/]+/readings$"))
    page.get_by_role("radio", name="show allotment-shack").check()
    page.wait_for_timeout(300)

    assert [picture.inner_html() for picture in pictures] == before
    expect(page.get_by_role("radio", name="show allotment-shack")).to_be_checked()
    late.release()
    settle()
    expect(pictures[1]).to_contain_text("not seen from the shack")
