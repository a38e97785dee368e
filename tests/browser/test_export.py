"""Ways in and out, as a person uses them."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

DEMO = Path(__file__).parents[2] / "yielding_coil" / "demo"
CSV = b"MHz;R;X\n20,5;60;-400\n21,2;85;-411\n22;120;-300\n"

pytestmark = pytest.mark.browser


def drop(page, *files):
    page.get_by_label("Choose a file").set_input_files(list(files))


def file(name, data):
    return {"name": name, "mimeType": "application/octet-stream", "buffer": data}


def verdict(page):
    return page.get_by_role("region", name="Verdict")


def paste(page, text):
    page.evaluate(
        """text => {
			const data = new DataTransfer();
			data.setData('text', text);
			document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
		}""",
        text,
    )


def test_s11_is_taken_from_two_ports_with_one_press(page, address, settle):
    page.goto(address)
    rows = "".join(f"{f} 0.5 -0.4 0 0 0 0 0 0\n" for f in (20, 21, 21.45, 22.5))
    drop(page, file("two.s2p", f"# MHz S RI R 50\n{rows}".encode()))
    page.get_by_role("button", name="Take S11 from it").click()

    expect(page.get_by_role("heading", name="two", exact=True)).to_be_visible()
    expect(verdict(page)).to_contain_text("worst SWR on 15 m")


def test_a_pasted_table_makes_a_build_with_dots_and_a_guess(page, address, settle):
    page.goto(address)
    settle()
    paste(page, CSV.decode())

    expect(page.get_by_role("heading", name="pasted", exact=True, level=1)).to_be_visible()
    settle()
    assert page.locator("circle.dot").count() == 9  # R, X and SWR at three frequencies
    assert page.locator("path.unsure").count() == 3


def test_what_is_pasted_into_a_field_stays_there(page, address, laid_in, settle):
    page.goto(address)
    settle()
    page.keyboard.press("/")
    page.get_by_role("combobox", name="Find").focus()
    page.evaluate(
        """() => document.activeElement.dispatchEvent(new ClipboardEvent('paste',
			{ clipboardData: new DataTransfer(), bubbles: true }))"""
    )
    settle()

    expect(page.get_by_role("alert")).to_have_count(0)


def test_points_are_typed_as_people_write_them(page, address, settle):
    page.goto(address)
    page.get_by_role("button", name="Type points").click()
    for i, (f, r, x) in enumerate(
        (("20,5", "60", "-j400"), ("21200k", "85 ohm", "−411"), ("22 MHz", "0.12k", "-300"))
    ):
        page.get_by_label(f"Frequency {i + 1}").fill(f)
        page.get_by_label(f"R {i + 1}").fill(r)
        page.get_by_label(f"X {i + 1}").fill(x)
    page.get_by_label("R 1").focus()
    settle()
    page.get_by_role("button", name="Keep 3 points").click()

    expect(page.get_by_role("heading", name="typed points", exact=True).first).to_be_visible()
    settle()
    slider = page.get_by_role("slider", name="Marker frequency")
    expect(slider).to_have_attribute("aria-valuetext", re.compile(r"8\d − j4[01]\d Ω"))


def test_swr_alone_is_read_for_what_it_carries(page, address, settle):
    page.goto(address)
    drop(page, file("dial.csv", b"MHz,SWR\n20.9,3\n21.1,1.8\n21.3,1.4\n21.5,2.4\n"))

    expect(verdict(page)).to_contain_text("SWR alone does not say R and X")
    expect(page.get_by_text("Lowest SWR 1.40 at 21.300 MHz")).to_be_visible()
    expect(page.get_by_role("link", name="Choose a match")).to_have_count(0)
    page.get_by_role("link", name="Match", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("carries SWR alone")


def test_several_files_are_one_build_or_one_each(page, address, settle):
    names = ("orchard-feedpoint.s1p", "orchard-after-rain.s1p")
    page.goto(address)
    drop(page, *(file(n, (DEMO / n).read_bytes()) for n in names), file("broken.csv", b"nothing\n"))
    expect(page.get_by_role("alert")).to_contain_text("broken.csv was not kept")
    page.get_by_role("button", name="One build with all of them").click()
    sweeps = page.get_by_role("region", name="Sweeps of this build")
    expect(sweeps.get_by_role("heading", level=3)).to_have_count(2)
    settle()

    page.goto(address)
    drop(page, *(file(n, (DEMO / n).read_bytes()) for n in names))
    page.get_by_role("button", name="A build each").click()
    expect(page.get_by_role("article")).to_have_count(3)


def test_sweeps_are_laid_over_compared_renamed_and_matched_to(page, address, laid_in, settle):
    page.goto(address)
    page.get_by_role("link", name="Orchard sloping wire").click()
    page.get_by_role("link", name="Sweep", exact=True).click()
    page.get_by_label("lay over: orchard-after-rain.s1p").check()
    differences = page.get_by_role("region", name="Differences")
    expect(differences).to_contain_text(re.compile(r"12 m: worst SWR 5\.3\d → 5\.2\d"))
    expect(differences).to_contain_text("more")
    settle()

    sweeps = page.get_by_role("region", name="Sweeps of this build")
    row = sweeps.get_by_role("listitem").filter(has_text="orchard-after-rain.s1p")
    row.get_by_role("button", name="Rename the sweep").click()
    page.get_by_label("Name of the sweep").fill("after the rain")
    page.get_by_label("Name of the sweep").press("Enter")
    expect(sweeps.get_by_role("heading", name="after the rain")).to_be_visible()
    page.get_by_role("button", name="use for the match: after the rain").click()
    settle()
    page.get_by_role("link", name="Choose a match").click()
    page.get_by_role("button", name="Use “after the rain”").click()
    expect(page.get_by_role("status").filter(has_text="Saved")).to_be_visible()


def test_a_sweep_is_added_to_a_build_and_put_in_the_bin_and_back(page, address, laid_in, settle):
    page.goto(address)
    page.get_by_role("link", name="Orchard sloping wire").click()
    page.get_by_role("link", name="Sweep", exact=True).click()
    drop(page, file("third.csv", CSV))
    # It is laid over at once, and compared in words under a heading that names it too.
    named = page.get_by_role("region", name="Sweeps of this build").get_by_role("heading", name="third.csv")
    expect(named).to_be_visible()
    settle()  # the differences come in above it, and move the button while it is pressed
    page.get_by_role("button", name="Put third.csv in the bin").click()
    expect(named).to_have_count(0)
    page.get_by_role("button", name="Take it back").click()

    expect(named).to_be_visible()


@pytest.mark.parametrize("kind", ["SVG", "PNG"])
def test_every_chart_goes_out_as_a_picture(match_desk, settle, tmp_path, kind):
    page = match_desk
    buttons = page.get_by_role("button", name=re.compile(rf"as {kind}$"))
    assert buttons.count() == 2
    for button in buttons.all():
        with page.expect_download() as got:
            button.click(force=True)
        data = Path(got.value.path()).read_bytes()
        assert got.value.suggested_filename.endswith(kind.lower())
        if kind == "PNG":
            assert data.startswith(b"\x89PNG")
            assert int.from_bytes(data[16:20], "big") > 400
        else:
            text = data.decode()
            assert "var(--" not in text
            assert "stroke: rgb" in text
            assert "font-face" in text


def test_bands_are_set_to_ones_licence_and_offered_to_targets(page, address, laid_in, settle):
    page.goto(f"{address}/bands")
    upper = page.get_by_label("15 m, to", exact=True)
    upper.fill("21.3")
    upper.press("Enter")
    expect(page.get_by_role("button", name="Put back 15 m")).to_be_visible()
    lower = page.get_by_label("15 m, from", exact=True)
    lower.fill("22")
    lower.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("above low_hz")
    lower.press("Escape")
    page.get_by_label("A band of your own").fill("garden test")
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("button", name="Remove garden test")).to_be_visible()
    page.get_by_label("ITU region").select_option("2")
    expect(page.get_by_label("40 m, to", exact=True)).to_have_value("7.300")
    settle()

    page.goto(address)
    page.get_by_role("link", name="Allotment long vertical").click()
    page.get_by_role("link", name="Sweep", exact=True).click()
    page.get_by_role("button", name="15 m speech").click()
    page.get_by_role("button", name="15 m", exact=True).click()
    settle()
    page.get_by_role("button", name="15 m", exact=True).click()
    expect(page.get_by_label("to", exact=True).first).to_have_value("21.300 MHz")


def test_a_matched_system_is_not_taken_for_the_bare_wire(page, address, laid_in, settle):
    """Found by trying it: the finished match, swept and dropped, got a match put on it."""
    page.goto(address)
    page.get_by_role("link", name="Orchard sloping wire").click()
    page.get_by_role("link", name="Sweep", exact=True).click()
    for name in ("finished.s1p", "bare.s1p"):
        drop(page, file(name, (DEMO / "orchard-after-rain.s1p").read_bytes()))
        settle()
    page.get_by_role("button", name="use for the match: finished.s1p").click()
    page.get_by_role("button", name="Yes: with the match").click()
    settle()
    row = page.get_by_role("region", name="Sweeps of this build").get_by_role("listitem")
    finished = row.filter(has_text="finished.s1p")
    expect(finished).to_contain_text("with the match in place")
    expect(finished.get_by_role("button", name=re.compile("use for the match"))).to_have_count(0)

    page.get_by_role("button", name="use for the match: bare.s1p").click()
    page.get_by_role("button", name="No: the wire alone").click()
    settle()
    expect(row.filter(has_text="bare.s1p")).to_contain_text("used for the match")
