"""Make the pictures of docs/screenshots anew from the demo data."""

import re
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

TOP = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(TOP), str(TOP / "tools")]

import httpx  # noqa: E402
import numpy as np  # noqa: E402
from browser import demo_page, settle  # noqa: E402
from playwright.sync_api import Page  # noqa: E402

from yielding_coil import data  # noqa: E402
from yielding_coil.core.line import Line  # noqa: E402
from yielding_coil.core.sweep import Sweep  # noqa: E402
from yielding_coil.core.wire import KINDS, Ground  # noqa: E402
from yielding_coil.core.wire.kinds import Stock  # noqa: E402
from yielding_coil.formats import touchstone  # noqa: E402

DESK = (1280, 800)
PHONE = (390, 844)
ALLOTMENT, ORCHARD, LOFT = "Allotment long vertical", "Orchard sloping wire", "Loft dipole, 12 m"
END_FED, NARROWBOAT = "Orchard end-fed", "Narrowboat loaded vertical"


def nothing(page: Page) -> None:
    """The view as it opens."""


def lay_over(page: Page) -> None:
    """The orchard's wire after rain over the dry one."""
    page.get_by_label("lay over: orchard-after-rain").check()
    settle(page)
    page.evaluate("scrollTo(0, 0)")


def went_deaf(page: Page) -> None:
    """A dipole of the orchard whose joint went bad: what is left after one sweep and one test."""
    address = page.url.rstrip("/")
    frequency_hz = np.linspace(1.8e6, 30e6, 301)
    hung = KINDS["dipole"].made({"leg_m": 10.12, "height_m": 8.6}, Stock(), Ground(0.004, 11))
    wires, coax = hung.structure().impedance_at(frequency_hz), Line(data.cable("pe-5"), 30.6)

    def post(where: str, **sent: Any) -> Any:
        return page.request.post(f"{address}/api/{where}", headers={"Origin": address}, **sent).json()

    def swept(name: str, more_ohm: float) -> str:
        seen = Sweep(frequency_hz, coax.input_impedance(frequency_hz, wires + more_ohm))
        told = f"sweeps?name={name}&build_id={build}"
        return str(post(told, data=touchstone.write(seen))["id"])

    band = {"label": "40 m", "low_hz": 7.0e6, "high_hz": 7.2e6, "swr_limit": 2.0}
    planned = {"kind": "wire", "antenna": "dipole", "numbers": {"leg_m": 10.05, "height_m": 9}}
    made = {"name": "Orchard dipole", "targets": [band], "wire": {"form": "dipole", "antenna": planned}}
    build = post("builds", data=made)["id"]
    good = swept("may.s1p", 0.0)
    line = {"cable": "pe-5", "length_m": 30.5}
    told = {"bands": {"40 m": "moved_up"}, "happened": ["rain"], "baseline_sweep_id": good, "line": line}
    post(f"builds/{build}/entries", data={"data": {"kind": "fault_begun", **told}})
    test = {"kind": "fault_test", "act": "as_it_is", "reading": {"kind": "sweep"}}
    post(f"builds/{build}/entries", data={"data": test, "sweep_id": swept("october.s1p", 15.0)})
    page.goto(f"{address}/builds/{build}/fault")
    page.get_by_role("heading", name="Order of search").wait_for(timeout=60_000)


def with_a_tuner(page: Page) -> None:
    """A tuner at the radio, and the band that it does most for."""
    page.get_by_role("button", name="Put a tuner at the radio").click()
    settle(page)
    page.get_by_role("button", name="15 m", exact=True).click()
    settle(page)


def practise(page: Page) -> None:
    """A round at the practice tuner, turned as told to its end."""
    page.get_by_role("button", name="Practise on the simulated bench").or_(
        page.get_by_role("button", name="Sweep again")
    ).first.click()
    settle(page)
    ask = page.get_by_role("button", name="Which knob, which way?")
    for _ in range(12):
        if not ask.count():
            return
        ask.click()
        told = re.match(r"Turn the (.*?): \w+, to about (.*)\.$", page.locator(".next").inner_text())
        assert told is not None
        field = page.get_by_role("textbox", name=told[1], exact=True)
        field.fill(told[2])
        field.press("Enter")
        settle(page)


def hold_some(page: Page) -> None:
    """Two rings of one's own, one of them measured."""
    for wanted, ring in (("240 43", "FT240-43"), ("68 2 T", "T68-2")):
        page.get_by_label("Search the drawer").fill(wanted)
        page.get_by_role("button", name=f"Add to my drawer: {ring}", exact=True).click()
        settle(page)
    page.get_by_label("Search the drawer").fill("")
    page.get_by_role("button", name="Change FT240-43").click()
    for label, text in (
        ("A_L, nH per turn², measured", "1210"),
        ("Count of FT240-43", "2"),
        ("Price of FT240-43", "7.20"),
    ):
        page.get_by_label(label).fill(text)
        page.get_by_label(label).press("Enter")
        settle(page)
    page.evaluate("scrollTo(0, 0)")


def tick_some(page: Page) -> None:
    """The first steps done, with a note at one of them."""
    for box in page.get_by_role("checkbox").all()[:3]:
        box.check()
        settle(page)
    page.get_by_role("button", name="Note at step 2", exact=True).click()
    page.get_by_role("textbox", name="Note at step 2", exact=True).fill("drill, slow, ten turns")
    page.get_by_role("textbox", name="Note at step 2", exact=True).press("Enter")
    settle(page)


def pair_a_phone(page: Page) -> None:
    """A phone that was paired, and a code for the next one."""
    base = page.url.rsplit("/", 1)[0]

    def code() -> str:
        made = page.request.post(f"{base}/api/pairings", headers={"Origin": base}, data={})
        return str(made.json()["code"])

    through = httpx.HTTPTransport(local_address="127.0.0.2")
    said = {"Host": "192.0.2.20", "X-Forwarded-For": "192.0.2.31"}
    with httpx.Client(base_url=base, transport=through, headers=said) as phone:
        assert phone.post("/pair", data={"code": code(), "name": "Phone in the orchard"}).status_code == 303
    page.reload()
    settle(page)
    page.get_by_role("button", name="Pair a device").click()
    settle(page)


def build_with_a_slip(page: Page) -> None:
    """The allotment's match built on the simulated bench with a slip nobody told of, and what a sweep says."""
    coil = page.get_by_role("textbox", name="Series coil", exact=True)
    coil.fill("2.30 µH")
    coil.press("Enter")
    settle(page)
    page.get_by_role("button", name="build it, perhaps with a slip").click()
    settle(page)
    page.get_by_role("region", name="As built").evaluate("e => e.scrollIntoView()")


def hang_the_narrowboat(page: Page) -> None:
    """The narrowboat's vertical on the simulated site, swept at its feedpoint: where its watts stay."""
    base, build = re.match(r"(http://[^/]+)/builds/([^/]+)", page.url).groups()  # type: ignore[union-attr]
    page.goto(f"{base}/analyser?build={build}")
    settle(page)
    page.get_by_role("button", name="2 Calibrate").click()
    page.get_by_role("button", name="another calibration").click()
    set_range(page, "4", "8")
    standards(page)
    antenna = page.request.get(f"{base}/api/builds/{build}").json()["wire"]["antenna"]
    page.request.put(f"{base}/api/analyser/bench/hung", data={"antenna": antenna})
    page.get_by_role("button", name="3 Sweep").click()
    set_range(page, "5.0", "5.75")
    page.get_by_role("button", name="Sweep and keep").click()
    settle(page)
    page.goto(f"{base}/builds/{build}/sweep")
    settle(page)


def calibrate(page: Page) -> None:
    """The simulated analyser connected and calibrated over the range that is set."""
    page.get_by_role("button", name="Connect the simulated analyser").click()
    settle(page)


def standards(page: Page) -> None:
    """Short, open, load, and the load once more."""
    page.get_by_role("button", name="Begin with the short").click()
    settle(page)
    for standard in ("short", "open", "load"):
        page.get_by_label("What is screwed on").select_option(standard)
        settle(page)
        page.get_by_role("button", name=f"Sweep the {standard}").click()
        settle(page)
    page.get_by_role("button", name="Check with the load").click()
    settle(page)


def set_range(page: Page, start: str, stop: str) -> None:
    """Start and stop of the sweep, in MHz."""
    for label, text in (("Start", start), ("Stop", stop)):
        page.get_by_label(label, exact=True).fill(text)
        page.get_by_label(label, exact=True).press("Enter")
        settle(page)


def check_the_load(page: Page) -> None:
    """Calibrated and checked."""
    calibrate(page)
    set_range(page, "22", "27")
    standards(page)


def sweep_the_loft(page: Page) -> None:
    """Calibrated and checked; the loft dipole swept and kept."""
    check_the_load(page)
    page.get_by_role("button", name="3 Sweep").click()
    set_range(page, "22", "27")
    page.get_by_label("What is screwed on").select_option("loft")
    settle(page)
    page.get_by_label("Height").fill("feedpoint 5 m up")
    page.get_by_label("What is near").fill("roof tiles")
    page.get_by_role("button", name="Sweep and keep").click()
    settle(page)


def know_a_line(page: Page) -> None:
    """A calibration from 1 to 100 MHz, both sweeps, the tape."""
    base = page.url.rsplit("/", 1)[0]
    page.goto(f"{base}/analyser")
    settle(page)
    page.get_by_role("button", name="2 Calibrate").click()
    page.get_by_role("button", name="another calibration").click()
    set_range(page, "1", "100")
    standards(page)
    page.goto(f"{base}/lines")
    settle(page)
    for end, thing in (("open", "cable-open"), ("shorted", "cable-short")):
        page.get_by_label("On the simulated bench is").select_option(thing)
        settle(page)
        page.get_by_role("button", name=f"Sweep it: far end {end}").click()
        settle(page)
    page.get_by_label("Length by the tape").fill("17.6")
    page.get_by_label("Length by the tape").press("Enter")
    settle(page)


# Name, build, path or stage, size, theme, and what is done before the picture. What changes data comes last.
PICTURES: tuple[tuple[str, str | None, str, tuple[int, int], str, Callable[[Page], None]], ...] = (
    ("builds", None, "", DESK, "day", nothing),
    ("sweep-desk", ORCHARD, "sweep", DESK, "day", lay_over),
    ("analyser", None, "analyser", DESK, "day", sweep_the_loft),
    ("lines", None, "lines", DESK, "day", know_a_line),
    ("choose", None, "choose", DESK, "day", nothing),
    ("wire", END_FED, "wire", DESK, "day", nothing),
    ("trim", LOFT, "trim", DESK, "day", nothing),
    ("wind", END_FED, "wind", DESK, "day", nothing),
    ("devices", None, "devices", DESK, "day", pair_a_phone),
    ("drawer", None, "drawer", DESK, "day", hold_some),
    ("build", END_FED, "build", DESK, "day", tick_some),
    ("log", ORCHARD, "log", DESK, "day", nothing),
    ("outdoors", LOFT, "outdoors", PHONE, "outdoors", nothing),
    ("match-desk", ALLOTMENT, "match", DESK, "day", nothing),
    ("predict", END_FED, "predict", DESK, "day", with_a_tuner),
    ("tuner", None, "tuner", DESK, "day", practise),
    ("fault", None, "", DESK, "day", went_deaf),
    ("as-built", ALLOTMENT, "match", DESK, "day", build_with_a_slip),
    ("loss", NARROWBOAT, "sweep", DESK, "day", hang_the_narrowboat),
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
