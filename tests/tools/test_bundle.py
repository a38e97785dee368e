"""What a browser loads before it can draw: scripts named by the page."""

import gzip
from pathlib import Path

DIST = Path(__file__).parents[2] / "web" / "dist"


def test_the_first_page_stays_light():
    page = (DIST / "index.html").read_text("utf-8")
    named = [p for p in (DIST / "assets").glob("*.js") if p.name in page]

    assert named
    assert sum(len(gzip.compress(p.read_bytes())) for p in named) < 120_000
    # The API's page is asked for by few and brings its own.
    assert not [p.name for p in named if p.name.startswith("api-docs")]
