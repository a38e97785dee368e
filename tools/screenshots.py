"""Make the pictures of docs/screenshots anew from the demo data: ./start's application on a database of its own."""

import shutil
import sys
import tempfile
import threading
import time
from pathlib import Path

import uvicorn
from playwright.sync_api import Page, sync_playwright
from sqlalchemy import create_engine
from sqlalchemy.orm import Session

TOP = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(TOP), str(TOP / "tools")]

from browser import CHROMIUM, CONTEXT, settle  # noqa: E402

from yielding_coil import demo  # noqa: E402
from yielding_coil.api.app import create_app  # noqa: E402
from yielding_coil.store.migrate import migrate  # noqa: E402
from yielding_coil.store.server import running  # noqa: E402

DESK = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}


def take(page: Page, name: str, address: str, stage: str, size: dict[str, int]) -> None:
    """One picture of one view, from its top."""
    page.set_viewport_size(size)
    page.goto(address)
    if stage:
        page.get_by_role("link", name="Allotment long vertical").click()
        settle(page)
        page.goto(page.url.split("?")[0].rsplit("/", 1)[0] + f"/{stage}")
    settle(page)
    page.screenshot(path=TOP / "docs" / "screenshots" / f"{name}.png")


def main() -> None:
    """All kept pictures."""
    folder = Path(tempfile.mkdtemp(prefix="yielding-coil-pictures-"))
    folder.chmod(0o755)
    with running(folder / "data", fsync=False) as server:
        engine = create_engine(server.url())
        migrate(engine)
        with Session(engine) as session, session.begin():
            demo.lay_in(session)
        served = uvicorn.Server(uvicorn.Config(create_app(engine), port=0, log_level="warning"))
        thread = threading.Thread(target=served.run, daemon=True)
        thread.start()
        while not served.started:
            time.sleep(0.02)
        address = f"http://127.0.0.1:{served.servers[0].sockets[0].getsockname()[1]}"
        with sync_playwright() as playwright:
            chromium = playwright.chromium.launch(**CHROMIUM)
            page = chromium.new_context(**CONTEXT).new_page()
            take(page, "builds", address, "", DESK)
            take(page, "sweep-desk", address, "sweep", DESK)
            take(page, "match-desk", address, "match", DESK)
            take(page, "match-phone", address, "match", PHONE)
            chromium.close()
        served.should_exit = True
        thread.join()
        engine.dispose()
    shutil.rmtree(folder)


if __name__ == "__main__":
    main()
