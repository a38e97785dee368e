"""The application with its demo, and headless Chromium, for tests, pictures and figures of speed alike."""

import contextlib
import ipaddress
import shutil
import tempfile
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import uvicorn
from playwright.sync_api import Page, sync_playwright
from sqlalchemy import create_engine
from sqlalchemy.orm import Session

from yielding_coil import demo
from yielding_coil.analyser.child import SimulatorChild
from yielding_coil.api.app import create_app
from yielding_coil.api.http import Reach
from yielding_coil.store.migrate import migrate
from yielding_coil.store.server import running

CHROMIUM: dict[str, Any] = {
    "executable_path": "/usr/bin/chromium",
    "chromium_sandbox": False,
    "args": [
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--disable-dev-shm-usage",
    ],
}
CONTEXT: dict[str, Any] = {
    "viewport": {"width": 1280, "height": 800},
    "locale": "en-GB",
    "reduced_motion": "reduce",
}


# A comparison of low priority hardly gets a turn on a machine that has other work.
SETTLES_WITHIN_MS = 180_000.0


def settle(page: Page) -> None:
    """Wait until fonts are there and nothing is under way."""
    quiet = page.locator("html[data-settled=true]")
    quiet.wait_for(state="attached", timeout=SETTLES_WITHIN_MS)
    page.evaluate("document.fonts.ready")
    page.wait_for_timeout(60)  # a frame or two for what the last answer draws
    quiet.wait_for(state="attached", timeout=SETTLES_WITHIN_MS)


@contextlib.contextmanager
def demo_page(**context: Any) -> Iterator[tuple[Page, str]]:
    """A page in Chromium, and the address of the application with the demo on a database of its own."""
    folder = Path(tempfile.mkdtemp(prefix="yielding-coil-demo-"))
    folder.chmod(0o755)
    with running(folder / "data") as server, sync_playwright() as playwright:
        engine = create_engine(server.url())
        migrate(engine)
        with Session(engine) as session, session.begin():
            demo.lay_in(session)
        simulated = SimulatorChild()
        # Served as by --https at an address of documentation; who comes from 127.0.0.2 asks for others.
        reached = Reach(
            lan=True,
            names=lambda: frozenset({"192.0.2.20"}),
            secure_port=8751,
            proxies=(ipaddress.ip_network("127.0.0.2"),),
        )
        app = create_app(engine, simulated=simulated, reached=reached)
        served = uvicorn.Server(uvicorn.Config(app, port=0, log_level="warning", proxy_headers=False))
        thread = threading.Thread(target=served.run, daemon=True)
        thread.start()
        while not served.started:
            time.sleep(0.02)
        chromium = playwright.chromium.launch(**CHROMIUM)
        port = served.servers[0].sockets[0].getsockname()[1]
        yield chromium.new_context(**{**CONTEXT, **context}).new_page(), f"http://127.0.0.1:{port}"
        chromium.close()
        served.should_exit = True
        thread.join()
        simulated.stop()
        engine.dispose()
    shutil.rmtree(folder)
