"""Make the pictures of docs/screenshots anew from the demo data."""

import sys
from pathlib import Path

TOP = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(TOP), str(TOP / "tools")]

from browser import demo_page, settle  # noqa: E402
from playwright.sync_api import Page  # noqa: E402

DESK = (1280, 800)
PHONE = (390, 844)
PICTURES = (
    ("builds", "", DESK),
    ("sweep-desk", "sweep", DESK),
    ("match-desk", "match", DESK),
    ("match-phone", "match", PHONE),
)


def take(page: Page, address: str, name: str, stage: str, size: tuple[int, int]) -> None:
    """One picture of one view, from its top."""
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto(address)
    if stage:
        page.get_by_role("link", name="Allotment long vertical").click()
        settle(page)
        page.goto(page.url.split("?")[0].rsplit("/", 1)[0] + f"/{stage}")
    settle(page)
    page.screenshot(path=TOP / "docs" / "screenshots" / f"{name}.png")


if __name__ == "__main__":
    with demo_page() as (page, address):
        for name, stage, size in PICTURES:
            take(page, address, name, stage, size)
