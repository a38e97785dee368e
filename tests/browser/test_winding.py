"""The winding desk and the drawer, as somebody with a ring in the hand uses them."""

import re

import pytest
from client_helpers import wire_build
from page_helpers import button
from playwright.sync_api import expect

pytestmark = pytest.mark.browser

PHONE = {"width": 390, "height": 844}
MICA = "kind,name,value,voltage_v,count\ncapacitor,240 pF mica,240p,500,2\n"


@pytest.fixture
def end_fed(page, address, laid_in, settle):
    """The demo's end-fed build at its winding desk."""
    page.goto(address)
    page.get_by_role("link", name="Orchard end-fed").click()
    page.get_by_role("heading", name="64 : 1 unun").wait_for()
    settle()
    return page


def wind_else(page, name, settle):
    """One of the other things to begin with, by how its name reads."""
    button(page, "something else").click()
    page.get_by_role("button", name=re.compile(name)).click()
    settle()


def picture(page):
    return page.get_by_role("img", name=re.compile("turns on the ring"))


def count_in(page, label, text, settle):
    page.get_by_label(label, exact=True).fill(text)
    page.get_by_label(label, exact=True).press("Enter")
    settle()


def cut_list(page):
    return page.get_by_role("heading", name="Cut before you start").locator("..").inner_text()


def test_from_choice_to_cut_list_and_picture(end_fed, settle):
    page = end_fed
    numbers = picture(page).locator("text.number").all_text_contents()

    assert sorted(int(n) for n in numbers) == list(range(1, 17))
    expect(picture(page)).to_contain_text("after 8")
    for place in ("coax shield", "coax centre", "wire post"):
        expect(picture(page)).to_contain_text(place)
    expect(page.get_by_text("16 passes through the hole, 15 full returns outside")).to_be_visible()
    expect(page.get_by_text("impedance 64 : 1, turns 8 : 1")).to_be_visible()
    assert "long wire, 1.0 mm enamelled copper" in cut_list(page)
    # What hangs in the drop turns watts to heat there.
    expect(page.get_by_role("list", name="The antenna system")).to_contain_text("64 : 1 unun")
    expect(page.get_by_role("list", name="The antenna system")).to_contain_text("turns to heat here")

    button(page, "Straight round").click()
    settle()
    expect(picture(page)).to_contain_text("straight round")
    page.reload()
    settle()
    expect(button(page, "Straight round")).to_have_attribute("aria-pressed", "true")
    button(page, "Undo").click()
    settle()
    expect(picture(page)).to_contain_text("after 8")


def test_what_cannot_be_wound_is_told_and_nothing_is_lost(end_fed, settle):
    page = end_fed
    before = cut_list(page)

    count_in(page, "in", "120", settle)
    expect(page.get_by_text("take fewer turns, a thinner wire or a larger ring")).to_be_visible()
    assert cut_list(page) == before
    page.get_by_label("Power").fill("0")
    page.get_by_label("Power").press("Enter")
    settle()
    expect(page.get_by_text("power is 0; it must be above zero")).to_be_visible()
    page.reload()
    settle()
    expect(page.get_by_label("in", exact=True)).to_have_value("16")


def test_two_quick_steps_are_two(end_fed, settle):
    page = end_fed
    more = button(page, "in: one more")
    more.click()
    more.click()
    settle()
    expect(page.get_by_label("in", exact=True)).to_have_value("18")
    page.reload()
    settle()
    expect(page.get_by_label("in", exact=True)).to_have_value("18")


def test_what_was_refused_stands_until_it_fits(end_fed, settle):
    """85 turns do not go half and half through this hole; straight round they do."""
    page = end_fed
    count_in(page, "in", "85", settle)
    expect(page.get_by_text("in each half of this hole")).to_be_visible()
    expect(page.get_by_label("in", exact=True)).to_have_value("85")
    button(page, "Straight round").click()
    settle()
    expect(page.get_by_text("in each half of this hole")).to_have_count(0)
    expect(page.get_by_text("85 passes through the hole")).to_be_visible()


def test_ten_kilowatts_are_too_hot(end_fed, settle):
    page = end_fed
    page.get_by_label("Power").fill("10k")
    page.get_by_label("Power").press("Enter")
    settle()

    expect(page.get_by_text("too hot").first).to_be_visible()
    expect(page.get_by_text("the law of warming is a guess")).to_be_visible()


def test_which_core_and_what_another_would_win(end_fed, settle):
    page = end_fed
    page.get_by_label("Compare with").select_option(label="two rings stacked")
    settle()
    beside = page.get_by_role("table")
    expect(beside).to_contain_text("two rings stacked")
    assert beside.locator("td.wins").count() >= 2

    cores = page.get_by_role("heading", name="Which core for this?").locator("xpath=../..")
    first = cores.get_by_role("listitem").first.get_by_role("button")
    name = first.inner_text().split(",")[0]
    first.click()
    settle()
    size, mix = name.removeprefix("2 × ").rsplit("-", 1)
    expect(page.get_by_label("Ring", exact=True)).to_have_value(size)
    expect(page.get_by_label("Mix", exact=True)).to_have_value(mix)


def test_counting_on_a_phone(end_fed, settle):
    page = end_fed
    page.set_viewport_size(PHONE)
    page.get_by_role("link", name="Count with me").click()
    settle()
    figure = page.locator(".big")
    on = page.get_by_role("button", name="One more turn")
    assert on.bounding_box()["height"] >= 44

    on.click()
    expect(page.get_by_text("With long wire and primary wire together.")).to_be_visible()
    on.click()
    expect(page.get_by_role("status")).to_contain_text("The primary wire ends here")
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    expect(figure).to_have_text("5")
    page.keyboard.press("Backspace")
    page.reload()
    settle()
    expect(figure).to_have_text("4")
    for _ in range(4):
        on.click()
    expect(page.get_by_role("status")).to_contain_text("Now cross over")
    for _ in range(8):
        on.click()
    expect(page.get_by_role("status")).to_contain_text("All turns are on")
    expect(page.get_by_role("button", name="Done")).to_be_disabled()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_from_an_empty_start_to_a_balun(page, address, client, settle):
    build = wire_build(client)
    page.goto(f"{address}/builds/{build['id']}/wind")
    settle()
    expect(page.get_by_role("heading", name="Nothing is wound for this build yet")).to_be_visible()
    page.get_by_role("button", name=re.compile("1 : 1 current balun")).click()
    settle()

    expect(page.get_by_role("heading", name="1 : 1 current balun")).to_be_visible()
    chart = page.get_by_role("img", name="Connection chart")
    for place in ("coax centre", "coax shield", "leg 1", "leg 2"):
        expect(chart).to_contain_text(place)
    expect(page.get_by_text("As a line its two wires are about")).to_be_visible()
    page.get_by_label("Wiring", exact=True).select_option(label="unun 9 : 1, three wires in hand")
    settle()
    expect(page.get_by_text("impedance 9 : 1, turns 3 : 1")).to_be_visible()
    assert len(picture(page).locator("path.wire").all()) > 27
    page.goto(f"{address}/builds/{build['id']}/match")
    settle()
    page.get_by_role("link", name="to the winding desk").click()
    expect(page.get_by_role("heading", name="9 : 1 unun")).to_be_visible()
    page.goto(address)
    settle()
    expect(page.get_by_role("article").filter(has_text=build["name"])).to_contain_text("Winding")


def test_the_coil_of_a_match_is_wound_here_too(page, address, laid_in, settle):
    page.goto(address)
    page.get_by_role("link", name="Allotment long vertical").click()
    settle()
    page.get_by_role("link", name="Wind", exact=True).click()
    settle()

    expect(page.get_by_role("heading", name="Air coil")).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("turns over .* on a former of 32 mm"))).to_be_visible()
    expect(page.get_by_text(re.compile("Squeezing and spreading reaches"))).to_be_visible()
    count_in(page, "tap at turn", "99", settle)
    expect(page.get_by_text("the tap lies inside it")).to_be_visible()
    count_in(page, "tap at turn", "3", settle)
    expect(page.get_by_text("tap at 3")).to_be_visible()
    button(page, "Undo").click()
    settle()
    expect(page.get_by_text("tap at 3")).to_have_count(0)
    button(page, "Wind it on a powder ring instead").click()
    settle()
    expect(page.get_by_role("heading", name="Coil on a ring")).to_be_visible()
    expect(page.get_by_text("Mix 2: material Q extrapolated")).to_be_visible()
    # The other part of the match stays.
    page.get_by_role("link", name="Match", exact=True).click()
    settle()
    expect(page.get_by_role("region", name="Verdict")).to_be_visible()
    expect(page.get_by_text("turns on T68-2").first).to_be_visible()


def test_two_designs_of_a_build_side_by_side(end_fed, settle):
    page = end_fed
    wind_else(page, "49 : 1 unun", settle)
    expect(page.get_by_role("heading", name="49 : 1 unun")).to_be_visible()
    page.get_by_label("Compare with").select_option(label="64 : 1 unun, 2 in 16")
    settle()
    rows = page.get_by_role("table").get_by_role("rowheader").all_inner_texts()

    assert [r for r in rows if r.endswith("lost")] == ["30 m, lost", "15 m, lost", "10 m, lost"]
    # Another design is looked at, not taken over this one.
    expect(page.get_by_role("button", name=re.compile("^Take 64"))).to_have_count(0)
    for chart in ("Expected SWR on the bench", "Loss over frequency"):
        expect(page.get_by_role("img", name=chart).locator("path.other")).to_have_count(1)
    page.get_by_label("What is wound").select_option(label="64 : 1 unun, 2 in 16: unun")
    settle()
    expect(page.get_by_role("heading", name="64 : 1 unun")).to_be_visible()


@pytest.mark.parametrize("size", ["A4", "Letter"])
def test_paper_carries_what_one_winds_from(end_fed, tmp_path, size):
    page = end_fed
    page.emulate_media(media="print")

    for text in (
        "FT240-43, 1.0 mm enamelled copper",
        "Cut before you start",
        "RF burn.",
        "from coax centre to coax shield",
    ):
        expect(page.get_by_text(text).first).to_be_visible()
    expect(picture(page)).to_be_visible()
    for name in ("Cross over", "Print it", "Undo"):
        expect(page.get_by_role("button", name=name)).to_be_hidden()
    page.pdf(path=tmp_path / "winding.pdf", format=size)
    assert (tmp_path / "winding.pdf").read_bytes().startswith(b"%PDF")


def test_counting_something_that_is_not_there_leads_back(page, address, laid_in, settle):
    nowhere = "00000000-0000-4000-8000-000000000000"
    page.goto(f"{address}/builds/{nowhere}/count?design={nowhere}&piece=unun")
    settle()

    expect(page.get_by_role("alert")).to_contain_text("the design is not kept here")
    expect(page.get_by_role("link", name="To the winding desk")).to_be_visible()


class TestDrawer:
    def hold(self, page, address, settle):
        """A ring of one's own, measured."""
        page.goto(f"{address}/drawer")
        settle()
        page.get_by_label("Search the drawer").fill("240 43")
        button(page, "Add to my drawer: FT240-43").click()
        settle()
        count_in(page, "A_L, nH per turn², measured", "1250", settle)
        expect(page.get_by_role("region", name="Yours")).to_contain_text("measured")

    def test_a_measured_ring_goes_into_a_design_and_stays_when_binned(self, page, address, laid_in, settle):
        self.hold(page, address, settle)
        page.goto(address)
        page.get_by_role("link", name="Orchard end-fed").click()
        settle()
        page.get_by_label("Ring", exact=True).select_option(label="FT240-43")
        settle()
        expect(page.get_by_text("known to ±1 %, as you measured it")).to_be_visible()
        desk = page.url
        page.goto(f"{address}/drawer")
        settle()
        expect(page.get_by_role("region", name="Yours")).to_contain_text("in 1 design")
        button(page, "Put FT240-43 in the bin").click()
        settle()
        expect(page.get_by_text("A design uses it and keeps what it was.")).to_be_visible()

        page.goto(desk)
        settle()
        expect(page.get_by_text("The core of this design lies in the bin now.")).to_be_visible()
        expect(page.get_by_text("as you measured it")).to_be_visible()
        page.goto(f"{address}/bin")
        settle()
        button(page, "Take FT240-43 back").click()
        settle()
        page.goto(desk)
        settle()
        expect(page.get_by_text("lies in the bin now")).to_have_count(0)

    def test_a_ring_changed_in_the_drawer_is_offered_never_taken_silently(self, page, address, laid_in, settle):
        self.hold(page, address, settle)
        page.goto(address)
        page.get_by_role("link", name="Orchard end-fed").click()
        settle()
        page.get_by_label("Ring", exact=True).select_option(label="FT240-43")
        settle()
        desk, before = page.url, page.get_by_role("region", name="Verdict").inner_text()
        page.goto(f"{address}/drawer")
        settle()
        button(page, "Change FT240-43").click()
        count_in(page, "A_L, nH per turn², measured", "700", settle)

        page.goto(desk)
        settle()
        assert page.get_by_role("region", name="Verdict").inner_text() == before
        button(page, "Take it as it is now").click()
        settle()
        assert page.get_by_role("region", name="Verdict").inner_text() != before

    def test_tables_in_and_capacitors_combined(self, page, address, laid_in, settle):
        page.goto(f"{address}/drawer?kind=capacitor")
        settle()
        chooser = page.locator("input[type=file]")
        chooser.set_input_files({"name": "bad.csv", "mimeType": "text/csv", "buffer": b"name,value\nx,1\n"})
        settle()
        expect(page.get_by_text("the columns kind are missing")).to_be_visible()
        expect(page.get_by_text("No capacitor of yours yet")).to_be_visible()
        chooser.set_input_files({"name": "mine.csv", "mimeType": "text/csv", "buffer": MICA.encode()})
        settle()
        expect(page.get_by_text("1 piece came in with “mine.csv”.")).to_be_visible()
        combine = page.get_by_role("region", name="Make one of two")
        count_in(page, "rated voltage at least", "700", settle)
        expect(combine).to_contain_text("two 240 pF mica in series")
        with page.expect_download() as download:
            page.get_by_role("link", name="Take it out as a table").click()
        assert "240 pF mica" in download.value.path().read_text()
        page.get_by_label("Search the drawer").fill("nothing like it")
        expect(page.get_by_text("None of your pieces matches “nothing like it”.")).to_be_visible()

    def test_a_capacitor_in_hand_stands_in_a_match_until_its_value_is_moved(self, page, address, laid_in, settle):
        page.goto(f"{address}/drawer?kind=capacitor")
        settle()
        mine = b"kind,name,value,tolerance_percent,voltage_v\ncapacitor,the one in the tin,56.3p,1,500\n"
        chooser = page.locator("input[type=file]")
        chooser.set_input_files({"name": "mine.csv", "mimeType": "text/csv", "buffer": mine})
        settle()
        page.goto(address)
        page.get_by_role("link", name="Orchard sloping wire").click()
        settle()
        desk, held = page.url, page.get_by_label("Series capacitor, in your drawer")
        held.select_option(label="the one in the tin")
        settle()
        value = page.get_by_label("Series capacitor", exact=True)
        expect(value).to_have_value("56.3 pF")
        page.reload()
        settle()
        expect(held.locator("option:checked")).to_have_text("the one in the tin")

        page.goto(f"{address}/drawer?kind=capacitor")
        settle()
        button(page, "Put the one in the tin in the bin").click()
        settle()
        page.goto(desk)
        settle()
        expect(page.get_by_text("The series capacitor of this design lies in the bin now.")).to_be_visible()
        expect(value).to_have_value("56.3 pF")

        count_in(page, "Series capacitor", "60p", settle)
        expect(page.get_by_text("lies in the bin now")).to_have_count(0)
        expect(value).to_have_value("60.0 pF")


def test_a_choke_of_two_wires_and_back_to_coax(end_fed, settle):
    page = end_fed
    wind_else(page, "11 turns of two wires", settle)

    expect(page.get_by_role("heading", name="Choke of two wires")).to_be_visible()
    assert "red wire" in cut_list(page)
    assert "blue wire" in cut_list(page)
    expect(page.get_by_text("as a line the pair is about")).to_be_visible()
    # What stands beside the cascade is no stop of the drop.
    stops = page.get_by_role("list", name="The antenna system")
    expect(stops).to_be_visible()
    expect(stops.locator("li.here")).to_have_count(0)
    page.get_by_label("Wound of").select_option(label="2.8 mm PTFE, 50 Ω")
    settle()
    expect(page.get_by_role("heading", name="Choke", exact=True)).to_be_visible()
    assert "coax" in cut_list(page)
    button(page, "Undo").click()
    settle()
    expect(page.get_by_role("heading", name="Choke of two wires")).to_be_visible()


def test_the_capacitor_across_the_input_is_one_that_can_be_had(end_fed, settle):
    page = end_fed
    sheet = page.locator("section", has=page.get_by_role("heading", name="Across the input"))
    expect(sheet).to_contain_text("two 47 pF silver mica in parallel make 94.0 pF")
    page.get_by_role("button", name="take it: two 47 pF silver mica in parallel").click()
    settle()
    expect(page.get_by_label("Capacitor", exact=True)).to_have_value("94.0 pF")
    expect(page.get_by_role("button", name="take it: two 47 pF silver mica in parallel")).to_have_count(0)
    page.get_by_role("button", name=re.compile("Best over the bands")).click()
    settle()
    expect(page.get_by_label("Capacitor", exact=True)).to_have_value("93.0 pF")
