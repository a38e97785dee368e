"""On every desk: what is typed counts in the act of the same moment; what is refused does nothing older."""

from collections.abc import Callable
from dataclasses import dataclass

import pytest
from client_helpers import made_build, made_design
from page_helpers import AT_ONCE, button, far_end
from playwright.sync_api import expect

pytestmark = pytest.mark.browser


@dataclass
class Act:
    """A field, what is typed into it, what is pressed, and what was kept of it afterwards."""

    field: str
    text: str
    press: str
    kept: Callable[[], object]
    wanted: object


def newest(client, build):
    (design,) = client.get(f"/api/builds/{build['id']}/designs").json()
    return design["revision"]["content"]


def on_match(page, address, client, settle):
    build = made_build(client)
    made_design(client, build)
    page.goto(f"{address}/builds/{build['id']}/match")

    def coax():
        return [e["length_m"] for e in newest(client, build)["elements"] if e["kind"] == "line"]

    return Act("Length of coax", "12 m", "Best over band", coax, [12.0])


def on_wind(page, address, client, settle):
    build = made_build(client)
    page.goto(f"{address}/builds/{build['id']}/wind")
    page.get_by_role("button", name="49 : 1 unun, 2 in 14").click()
    settle()
    kept = lambda: newest(client, build)["elements"][0]["primary_turns"]  # noqa: E731
    return Act("Primary turns", "3", "Sweep", kept, 3)


def in_the_drawer(page, address, client, settle):
    held = {"kind": "core", "name": "three rings", "count": 3, "values": {"mix": "31", "size": "FT240"}}
    piece = client.post("/api/pieces", json=held).json()
    page.goto(f"{address}/drawer?kind=core")
    page.get_by_role("button", name="Change three rings").click()

    def kept():
        client.post(f"/api/pieces/{piece['id']}/restore")
        return next(p["held"]["count"] for p in client.get("/api/pieces").json() if p["id"] == piece["id"])

    return Act("Count", "5", "bin", kept, 5)


def on_lines(page, address, client, settle):
    page.goto(f"{address}/lines")
    for end in ("open", "shorted"):
        page.get_by_label(f"A file of it: far end {end}").set_input_files(far_end(end))
        settle()
    page.get_by_label("Length by the tape", exact=True).fill("15 m")
    page.get_by_label("Length by the tape", exact=True).press("Enter")
    settle()
    page.get_by_label("Keep it as your own cable").fill("drum")

    def kept():
        cables = [p["held"]["values"]["velocity_factor"] for p in client.get("/api/pieces").json()]
        return [round(v, 2) for v in cables]

    return Act("Length by the tape", "17.6 m", "Keep it", kept, [0.84])


def on_bands(page, address, client, settle):
    page.goto(f"{address}/bands")
    page.get_by_label("A band of your own").fill("61 m channel")

    def kept():
        rows = client.get("/api/tables/bands").json()["rows"]
        return next(r["high_hz"] for r in rows if r["label"] == "15 m"), "61 m channel" in [
            r["label"] for r in rows
        ]

    return Act("15 m, to", "21.4", "Add it", kept, (21.4e6, True))


DESKS = pytest.mark.parametrize("desk", [on_match, on_wind, in_the_drawer, on_lines, on_bands])


@DESKS
@pytest.mark.parametrize("way", ["mouse", "touch", "Enter"])
def test_what_was_typed_is_in_the_act(page, address, client, settle, desk, way):
    act = desk(page, address, client, settle)
    settle()
    page.evaluate(AT_ONCE, [act.field, act.text, act.press, way])
    settle()
    if way == "Enter" and act.press in ("Keep it", "Add it"):
        button(page, act.press).click()
        settle()

    assert act.kept() == act.wanted


@DESKS
def test_what_is_refused_holds_the_act_and_nothing_older_is_kept(page, address, client, settle, desk):
    act = desk(page, address, client, settle)
    settle()
    before = act.kept()
    page.evaluate(AT_ONCE, [act.field, "seven furlongs", act.press, "mouse"])
    expect(page.get_by_text("“seven furlongs” in").first).to_be_visible()
    settle()

    assert act.kept() == before
    assert page.evaluate("document.activeElement.value") == "seven furlongs"


def test_changes_of_a_piece_build_on_each_other(page, address, client, settle):
    """Typed one after the other, faster than the first is kept."""
    in_the_drawer(page, address, client, settle)
    page.route("**/api/pieces/*", lambda route: (page.wait_for_timeout(300), route.continue_()))
    page.get_by_label("Count of three rings").fill("4")
    page.get_by_label("Price of three rings").fill("7.20")
    page.get_by_label("Name of three rings").fill("grey rings")
    page.get_by_label("Name of three rings").press("Enter")
    expect(page.get_by_text("grey rings").first).to_be_visible()
    settle()

    (held,) = (p["held"] for p in client.get("/api/pieces").json())
    assert (held["count"], held["price"], held["name"]) == (4, "7.20", "grey rings")


def test_points_are_typed_and_kept_by_keyboard_alone(page, address, client, settle):
    """From the last figure, Tab comes to Keep before the figure has settled; and what lacks is said."""
    page.goto(address)
    button(page, "Type points").click()
    page.get_by_label("Frequency 1").focus()
    for figure in ("20.5", "60", "-400", "21.2", "85", "-411", "22"):
        page.keyboard.type(figure)
        page.keyboard.press("Tab")
    button(page, "Keep 2 points").click()
    expect(page.get_by_role("dialog")).to_contain_text("Row 3 lacks R and X")
    page.get_by_label("R 3").focus()
    page.keyboard.type("120")
    page.keyboard.press("Tab")
    page.keyboard.type("-300")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    settle()

    (build,) = client.get("/api/builds").json()
    (sweep,) = client.get(f"/api/builds/{build['id']}").json()["sweeps"]
    assert sweep["points"] == 3
