import sys
from pathlib import Path

import pytest
from patience import PATIENCE_S
from playwright.sync_api import expect

sys.path.insert(0, str(Path(__file__).parents[2] / "tools"))
import browser  # how Chromium is started everywhere here

sys.path.pop(0)

expect.set_options(timeout=PATIENCE_S * 1e3)


@pytest.fixture(scope="session")
def base_url():
    """None: each test has an address of its own. The plugin's own fixture warns under this pytest."""
    return


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    return {**browser_type_launch_args, **browser.CHROMIUM}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args):
    return {**browser_context_args, **browser.CONTEXT}


@pytest.fixture
def context(context):
    context.set_default_timeout(PATIENCE_S * 1e3)
    return context


@pytest.fixture
def settle(page):
    """Wait until nothing is under way on the page, whose errors fail the test."""
    errors = []
    page.on("pageerror", lambda error: errors.append(str(error)))

    def wait(to=page):
        browser.settle(to)

    yield wait
    for open_page in page.context.pages:
        browser.settle(open_page)  # what is still under way belongs to this test's database
    assert errors == []


@pytest.fixture
def match_desk(page, address, laid_in, settle):
    """The demo build at its match desk."""
    page.goto(address)
    page.get_by_role("link", name="Allotment long vertical").click()
    page.get_by_role("heading", name="SWR at the match").wait_for()
    settle()
    return page
