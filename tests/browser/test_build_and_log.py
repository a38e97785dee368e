"""The build sheet and the log as somebody uses them: ticked in two places, told, filtered, taken out and in."""

import io
import re
import zipfile
from datetime import UTC, datetime

import pytest
from client_helpers import made_build, made_design, unun
from photographs import opened, photograph
from playwright.sync_api import expect

from yielding_coil.core.sweep import Sweep
from yielding_coil.formats import touchstone

pytestmark = pytest.mark.browser

PHONE = {"width": 390, "height": 844}


@pytest.fixture
def design(client):
    """An unun to be built."""
    build = made_build(client)
    return client.post(f"/api/builds/{build['id']}/designs", json={"name": "unun", "content": unun()}).json()


def sheet(page, address, design, settle, to=None):
    shown = to or page
    shown.goto(f"{address}/builds/{design['build_id']}/build")
    settle(shown)
    return shown


def step(page, words):
    return page.get_by_role("listitem").filter(has_text=words)


def kept(client, design, number=1):
    ticks = client.get(f"/api/designs/{design['id']}/revisions/{number}/ticks").json()
    return {t["step"]: (t["done"], t["note"]) for t in ticks}


class TestSheet:
    def test_two_pages_tick_and_none_is_lost(self, page, browser, address, client, design, settle):
        sheet(page, address, design, settle)
        context = browser.new_context(viewport=PHONE, has_touch=True)
        phone = sheet(page, address, design, settle, context.new_page())
        names = ["Cut for the unun", "Twist the short wire", "passes of both wires", "cross over", "Count inside"]
        # Both at once, each other step, faster than any look.
        for k, name in enumerate(names):
            (page if k % 2 else phone).evaluate(
                "(words) => [...document.querySelectorAll('li')].find((e) => e.innerText.includes(words))"
                ".querySelector('input').click()",
                name,
            )
        for shown in (page, phone):
            for name in names:
                expect(step(shown, name).get_by_role("checkbox")).to_be_checked()
            expect(shown.get_by_role("region", name="How far it is")).to_contain_text("5 of")
        settle(page)
        settle(phone)
        assert sum(done for done, _ in kept(client, design).values()) == len(names)
        assert phone.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]
        context.close()

    def test_notes_of_both_stay(self, page, browser, address, client, design, settle):
        sheet(page, address, design, settle)
        context = browser.new_context()
        other = sheet(page, address, design, settle, context.new_page())
        for shown, words in ((page, "reel of the shed"), (other, "too stiff")):
            shown.get_by_role("button", name="Note at step 1", exact=True).click()
            shown.get_by_role("textbox", name="Note at step 1", exact=True).fill(words)
        for shown in (page, other):
            shown.get_by_role("textbox", name="Note at step 1", exact=True).press("Enter")
        for shown in (page, other):
            expect(step(shown, "Cut for the unun")).to_contain_text("reel of the shed")
            expect(step(shown, "Cut for the unun")).to_contain_text("too stiff")
        context.close()

    def test_ticks_survive_a_reload_and_are_taken_away(self, page, address, client, design, settle):
        sheet(page, address, design, settle)
        box = step(page, "Scrape or burn off").get_by_role("checkbox")
        box.focus()
        page.keyboard.press("Space")
        settle(page)
        page.reload()
        settle(page)
        expect(box).to_be_checked()
        expect(step(page, "Scrape or burn off")).to_contain_text(re.compile(r"\d\d:\d\d"))
        box.click()
        settle(page)
        assert kept(client, design)["solder"] == (False, "")

    def test_a_design_that_changed_since(self, page, address, client, design, settle):
        sheet(page, address, design, settle)
        for words in ("Cut for the unun", "Scrape or burn off"):
            step(page, words).get_by_role("checkbox").check()
        settle(page)
        made = {"edited": 1, "content": unun(secondary_turns=14)}
        client.post(f"/api/designs/{design['id']}/revisions", json=made)
        sheet(page, address, design, settle)
        expect(page.get_by_role("status").filter(has_text="changed since you began")).to_be_visible()
        expect(page.get_by_role("region", name="How far it is")).to_contain_text("2 of")
        page.get_by_role("button", name="Go on with the newest, keep ticks of equal steps").click()
        settle(page)
        # Another length of wire is cut, so that step is to be done anew.
        expect(step(page, "Scrape or burn off").get_by_role("checkbox")).to_be_checked()
        expect(step(page, "Cut for the unun").get_by_role("checkbox")).not_to_be_checked()

    def test_ten_of_them(self, page, address, client, design, settle):
        sheet(page, address, design, settle)
        field = page.get_by_role("textbox", name="How many", exact=True)
        field.fill("ten")
        field.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("no whole number")
        field.fill("10")
        field.press("Enter")
        expect(page.get_by_text("10 × ring FT240-43")).to_be_visible()
        expect(page.get_by_role("region", name="How far it is")).to_contain_text("of 10 will hold")

    def test_nothing_decided_yet(self, page, address, client, settle):
        build = made_build(client)
        page.goto(f"{address}/builds/{build['id']}/build")
        expect(page.get_by_role("heading", name="Nothing is decided yet")).to_be_visible()

    @pytest.mark.parametrize("size", ["A4", "Letter"])
    def test_one_side_of_paper(self, page, address, client, laid_in, settle, size):
        for build in client.get("/api/builds").json():
            if build["chosen_design_id"] is None:
                continue
            page.goto(f"{address}/builds/{build['id']}/build")
            page.get_by_role("heading", name="In this order").wait_for()
            settle(page)
            pdf = page.pdf(format=size, prefer_css_page_size=True)
            assert len(re.findall(rb"/Type\s*/Page\b", pdf)) == 1, build["name"]


def log(page, address, build, settle):
    page.goto(f"{address}/builds/{build['id']}/log")
    settle(page)


def tell(page, words):
    page.get_by_label("What happened", exact=True).fill(words)
    page.get_by_label("What happened", exact=True).press("Enter")


class TestLog:
    def test_told_reworded_taken_back(self, page, address, client, settle):
        build = made_build(client)
        log(page, address, build, settle)
        tell(page, "")
        expect(page.get_by_role("alert")).to_contain_text("Write what happened")
        tell(page, "thre feet off the gutter")
        expect(page.get_by_role("region", name="Today")).to_contain_text("thre feet")
        page.get_by_role("button", name="Change the words of").click()
        page.get_by_role("textbox", name="Words").fill("three feet off the gutter")
        page.get_by_role("textbox", name="Words").press("Enter")
        expect(page.get_by_text("three feet off the gutter")).to_be_visible()
        page.get_by_role("button", name="Take back").click()
        expect(page.get_by_text("three feet off the gutter")).to_be_hidden()
        settle(page)
        assert client.get(f"/api/builds/{build['id']}/entries").json() == []

    def test_two_notes_faster_than_an_answer(self, page, address, client, settle):
        build = made_build(client)
        log(page, address, build, settle)
        tell(page, "first")
        expect(page.get_by_text("first", exact=True)).to_be_visible()
        tell(page, "second")
        expect(page.get_by_text("second", exact=True)).to_be_visible()
        settle(page)
        assert [e["text"] for e in client.get(f"/api/builds/{build['id']}/entries").json()] == ["first", "second"]

    def test_photographs_kept_refused_and_without_their_place(self, page, address, client, settle):
        build = made_build(client)
        log(page, address, build, settle)
        field = page.locator("form input[type=file]")
        files = [
            {"name": "notes.jpg", "mimeType": "image/jpeg", "buffer": b"! no picture"},
            {"name": "box.jpg", "mimeType": "image/jpeg", "buffer": photograph(gps=True, orientation=6)},
        ]
        field.set_input_files(files)
        expect(page.get_by_role("alert")).to_contain_text("notes.jpg: this is no JPEG and no PNG")
        page.get_by_role("button", name="Show box.jpg").click()
        window = page.get_by_role("dialog", name="box.jpg")
        expect(window).to_contain_text("400 × 640 pixels")
        window.get_by_role("button", name="Take the position out", exact=True).click()
        window.get_by_role("button", name="Take the position out for good").click()
        expect(window).not_to_contain_text("says where it was taken")
        page.keyboard.press("Escape")
        expect(page.get_by_text("Position taken out of “box.jpg”")).to_be_visible()
        settle(page)
        found = client.get("/api/log", params={"build_id": build["id"], "groups": "photographs"}).json()
        picture = found["items"][0]["photographs"][0]
        assert (
            not opened(client.get(f"/api/photographs/{picture['id']}/original").content).getexif().get_ifd(0x8825)
        )

    def test_filter_find_and_all_builds(self, page, address, client, laid_in, settle):
        build = next(b for b in client.get("/api/builds").json() if b["name"] == "Orchard sloping wire")
        log(page, address, build, settle)
        page.get_by_role("button", name="On the air", exact=True).click()
        expect(page.get_by_text("Weak as a proof")).to_have_count(2)
        expect(page.get_by_text("Good enough", exact=True)).to_be_hidden()
        page.get_by_role("button", name="On the air", exact=True).click()
        page.get_by_label("Find", exact=True).fill("bark")
        page.get_by_label("Find", exact=True).press("Enter")
        expect(page.get_by_text("bark wet where the cord rubs")).to_be_visible()
        page.get_by_label("Find", exact=True).fill("no such words")
        page.get_by_label("Find", exact=True).press("Enter")
        expect(page.get_by_text("Nothing in the log says so.")).to_be_visible()
        page.get_by_label("Find", exact=True).fill("traps")
        page.get_by_label("in all builds").check()
        expect(page.get_by_role("link", name="Loft trap dipole").first).to_be_visible()

    def test_the_baseline_and_a_day_of_the_past(self, page, address, client, laid_in, settle):
        build = next(b for b in client.get("/api/builds").json() if b["name"] == "Orchard sloping wire")
        log(page, address, build, settle)
        card = page.get_by_role("region", name="Against the baseline")
        expect(card).to_contain_text("15 m telegraphy: worst SWR 4.60 → 4.50")
        page.get_by_role("button", name="Today: as it was then").click()
        then = page.get_by_role("heading", name="What was it like then?").locator("..")
        expect(then).to_contain_text("C in series, C across the coax")
        expect(then).to_contain_text("orchard-after-rain.s1p")
        card.get_by_role("button", name="Make “orchard-after-rain.s1p” the baseline").click()
        settle(page)
        now = client.get(f"/api/builds/{build['id']}").json()
        assert now["baseline_sweep_id"] != build["baseline_sweep_id"]

    def test_checked_again(self, page, address, client, settle):
        build = made_build(client)
        first = client.get(f"/api/builds/{build['id']}").json()["sweeps"][0]
        sweep = touchstone.read(client.get(f"/api/sweeps/{first['id']}/original").content)
        moved = touchstone.write(Sweep(sweep.frequency_hz, sweep.impedance_ohm + 30j))
        asked = {"name": "glued.s1p", "build_id": build["id"]}
        glued = client.post("/api/sweeps", params=asked, content=moved).json()["id"]
        log(page, address, build, settle)
        page.get_by_role("heading", name="Checked again").click()
        page.get_by_label("Swept before").select_option(first["id"])
        page.get_by_label("Swept after").select_option(glued)
        expect(page.get_by_text(re.compile("^It moved"))).to_be_visible()
        page.get_by_role("button", name="Keep it in the log").click()
        expect(page.get_by_text("Checked again after glue", exact=True)).to_be_visible()

    def test_out_and_in_again(self, page, address, client, settle):
        build = made_build(client)
        made_design(client, build)
        log(page, address, build, settle)
        page.get_by_text("Take this build out").click()
        with page.expect_download() as waited:
            page.get_by_role("button", name="Save as a file").click()
        data = waited.value.path().read_bytes()
        assert "archive.json" in zipfile.ZipFile(io.BytesIO(data)).namelist()
        expect(page.get_by_text("Written. The browser has the file.")).to_be_visible()
        page.goto(address)
        page.get_by_text("Backup, and archives of builds").click()
        field = page.locator("details input[type=file]")
        field.set_input_files({"name": "other.zip", "mimeType": "application/zip", "buffer": b"nothing"})
        expect(page.get_by_role("alert")).to_contain_text("this is no archive")
        field.set_input_files({"name": "build.zip", "mimeType": "application/zip", "buffer": data})
        expect(page.get_by_text(re.compile("came in: 1 sweeps, 1 designs"))).to_be_visible()
        settle(page)
        assert len(client.get("/api/builds").json()) == 2

    def test_an_empty_log_teaches_the_first_step(self, page, address, client, settle):
        targets = [{"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 2.0}]
        build = client.post("/api/builds", json={"name": "To come", "targets": targets}).json()
        log(page, address, build, settle)
        expect(page.get_by_role("heading", name="Nothing has happened yet")).to_be_visible()

    def test_a_long_log_goes_on_where_one_scrolls(self, page, address, client, settle):
        build = made_build(client)
        for k in range(130):
            at = datetime(2026, 1, 1 + k % 28, tzinfo=UTC).isoformat()
            made = {"data": {"kind": "note"}, "text": f"note {k}", "happened_at": at}
            client.post(f"/api/builds/{build['id']}/entries", json=made)
        log(page, address, build, settle)
        assert page.get_by_text(re.compile(r"^note \d+$")).count() < 100
        for _ in range(6):
            page.evaluate("scrollTo(0, document.body.scrollHeight)")
            settle(page)
            page.wait_for_timeout(150)
        expect(page.get_by_text(re.compile(r"^note \d+$"))).to_have_count(130)
