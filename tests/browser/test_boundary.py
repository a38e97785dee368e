"""A page that cannot draw what it got says so, keeps what was typed, and offers a way on."""

import json

import pytest
from client_helpers import hung, wire_build
from playwright.sync_api import expect

pytestmark = pytest.mark.browser

# The answer that a desk draws from; it comes as something else.
DESKS = {
    "wire": "**/api/structures/sketches",
    "sweep": "**/api/sweeps/*/curves*",
    "match": "**/api/predictions",
    "wind": "**/api/windings",
    "trim": "**/api/builds/*/trim*",
    "outdoors": "**/api/builds/*/trim*",
}
NONSENSE = '{"targets": 5, "cuts": {}, "findings": 7, "trail": 3, "links": 1, "stations": 2}'


TOLD = "This page met something that it cannot draw."


def nonsense(page, where):
    """An answer in which one thing is not what it should be, or all are."""

    def answer(route):
        if "predictions" not in where:
            route.fulfill(status=200, content_type="application/json", body=NONSENSE)
            return
        found = route.fetch().json()
        route.fulfill(status=200, content_type="application/json", body=json.dumps({**found, "targets": 5}))

    page.route(where, answer)


def build_for(client, desk):
    if desk in ("trim", "outdoors", "wire"):
        build = wire_build(client)
        hung(client, build, 2.96)
        return build
    names = {"sweep": "Allotment long vertical", "match": "Allotment long vertical", "wind": "Orchard end-fed"}
    return next(b for b in client.get("/api/builds").json() if b["name"] == names[desk])


@pytest.mark.parametrize("desk", DESKS)
def test_each_desk_that_throws_says_so_and_goes_on(laid_in, page, address, client, desk):
    build = build_for(client, desk)
    nonsense(page, DESKS[desk])
    page.goto(f"{address}/builds/{build['id']}/{desk}")
    told = page.get_by_text(TOLD)
    expect(told).to_be_visible()
    # The rest of the page stands, and the desk comes back as soon as it can.
    expect(page.get_by_role("link", name="To the shelf")).to_be_visible()
    page.unroute(DESKS[desk])
    page.get_by_role("button", name="Load the page anew").click()
    expect(page.get_by_role("main")).to_be_visible()
    expect(told).to_have_count(0)
