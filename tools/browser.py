"""How headless Chromium is started here, for tests, pictures and figures of speed alike."""

from typing import Any

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


def settle(page: Any) -> None:
    """Wait until fonts are there and nothing is under way."""
    page.wait_for_function("document.documentElement.dataset.settled === 'true'")
    page.evaluate("document.fonts.ready")
    page.wait_for_timeout(60)  # a frame or two for what the last answer draws
    page.wait_for_function("document.documentElement.dataset.settled === 'true'")
