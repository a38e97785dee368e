"""The API's own page: drawn from what is served here alone."""

import pytest
from playwright.sync_api import expect

pytestmark = pytest.mark.browser


def test_the_api_describes_itself_without_asking_anybody_else(page, address):
    asked, told = [], []
    page.on("request", lambda request: asked.append(request.url))
    page.on("console", lambda message: told.append(message.text))
    page.goto(f"{address}/api/docs")
    page.get_by_role("link", name="matching", exact=True).click()

    expect(page.get_by_role("link", name="/api/matches", exact=True)).to_be_visible()
    page.get_by_role("button", name="POST /api/matches").first.click()
    expect(page.get_by_text("Request body")).to_be_visible()
    assert [url for url in asked if not url.startswith((address, "data:", "blob:"))] == []
    assert told == []
