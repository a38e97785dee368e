"""Make the pictures of docs/screenshots anew from the demo data."""

import sys
from collections.abc import Callable
from pathlib import Path

TOP = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(TOP), str(TOP / "tools")]

from browser import demo_page, settle  # noqa: E402
from playwright.sync_api import Page  # noqa: E402

DESK = (1280, 800)
PHONE = (390, 844)
ALLOTMENT, ORCHARD = "Allotment long vertical", "Orchard sloping wire"


def nothing(page: Page) -> None:
    """The view as it opens."""


def lay_over(page: Page) -> None:
    """The orchard's wire after rain over the dry one."""
    page.get_by_label("lay over: orchard-after-rain").check()
    settle(page)
    page.evaluate("scrollTo(0, 0)")


def work(page: Page) -> None:
    """Two edits, a name for the first state, the networks side by side; scrolled to where they stand."""
    page.get_by_role("button", name="Series coil: one step more").click()
    settle(page)
    page.get_by_role("button", name="Rename the state 1").click()
    page.get_by_label("Name of the state 1").fill("as computed")
    page.get_by_label("Name of the state 1").press("Enter")
    settle(page)
    page.get_by_role("button", name="lay over: as computed").click()
    page.get_by_role("button", name="Side by side").click()
    settle(page)
    page.evaluate("document.querySelector('[aria-label=\"Networks side by side\"]').scrollIntoView()")


def bin_a_build(page: Page) -> None:
    """One build in the bin."""
    page.get_by_role("link", name="Yielding Coil").click()
    page.get_by_role("button", name=f"Put {ORCHARD} in the bin").click()
    settle(page)
    page.goto(page.url + "bin")


def find(page: Page) -> None:
    """Quick-find over the shelf."""
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Find").fill("coil")


# Name, build, path or stage, size, theme, and what is done before the picture. What changes data comes last.
PICTURES: tuple[tuple[str, str | None, str, tuple[int, int], str, Callable[[Page], None]], ...] = (
    ("builds", None, "", DESK, "day", nothing),
    ("quick-find", None, "", DESK, "day", find),
    ("bands", None, "bands", DESK, "day", nothing),
    ("sweep-desk", ORCHARD, "sweep", DESK, "day", lay_over),
    ("match-desk", ALLOTMENT, "match", DESK, "day", nothing),
    ("match-night", ALLOTMENT, "match", DESK, "night", nothing),
    ("match-outdoors", ALLOTMENT, "match", DESK, "outdoors", nothing),
    ("match-phone", ALLOTMENT, "match", PHONE, "day", nothing),
    ("match-three-targets", ORCHARD, "match", DESK, "day", nothing),
    ("match-history", ALLOTMENT, "match", DESK, "day", work),
    ("bin", None, "bin", DESK, "day", bin_a_build),
)


def take(
    page: Page, address: str, name: str, build: str | None, view: str, theme: str, act: Callable[[Page], None]
) -> None:
    """One picture of one view, from its top."""
    page.goto(address)
    page.evaluate("theme => localStorage.setItem('theme', theme)", theme)
    page.goto(f"{address}/{view}" if build is None else address)
    settle(page)
    if build:
        page.get_by_role("link", name=build).click()
        settle(page)
        page.goto(page.url.split("?")[0].rsplit("/", 1)[0] + f"/{view}")
        settle(page)
    act(page)
    settle(page)
    page.mouse.move(0, 0)
    page.screenshot(path=TOP / "docs" / "screenshots" / f"{name}.png")


if __name__ == "__main__":
    with demo_page() as (page, address):
        for name, build, view, size, theme, act in PICTURES:
            page.set_viewport_size({"width": size[0], "height": size[1]})
            take(page, address, name, build, view, theme, act)
