"""Too good to be true, as somebody sees it beside a sweep: on Sweep, on Trim, and with a hand on the coax."""

import re

import numpy as np
import pytest
from client_helpers import acted, hung, logged, wire_build
from playwright.sync_api import expect

from yielding_coil.core.sweep import Sweep
from yielding_coil.documents.wire import WireAntenna
from yielding_coil.formats import touchstone

pytestmark = pytest.mark.browser

PHONE = {"width": 390, "height": 844}

LOFT = {"kind": "wire", "antenna": "dipole", "numbers": {"leg_m": 2.86, "height_m": 6.0}}
F = np.linspace(23.5e6, 26.4e6, 81)


@pytest.fixture
def loft(client):
    """A planned dipole, and a way to keep sweeps of it: its impedance, changed."""
    build = wire_build(client, form="dipole", antenna=LOFT)
    ohm = WireAntenna.model_validate(LOFT).hung().structure().impedance_at(F)

    def kept(name, change=lambda z: z):
        answer = client.post(
            "/api/sweeps",
            params={"name": f"{name}.s1p", "build_id": build["id"]},
            content=touchstone.write(Sweep(F, change(ohm))),
        )
        assert answer.status_code == 201, answer.text
        return answer.json()["id"]

    return build, kept


def card(page):
    return page.get_by_role("region", name="Too good to be true")


def test_a_bad_joint_is_named_beside_the_sweep_and_a_hand_tells_of_the_shield(page, address, client, loft, settle):
    build, kept = loft
    kept("honest")
    joint = kept("joint", lambda z: z + 15)
    kept("hand", lambda z: 1.1 * z + 8j)
    page.goto(f"{address}/builds/{build['id']}/sweep")
    settle()
    expect(card(page).get_by_role("status")).to_have_text("Nothing looks wrong")
    expect(card(page)).to_contain_text(re.compile(r"Of 100 W at 24.9\d+ MHz \d+( to \d+)? W stay behind as heat"))

    page.goto(f"{address}/builds/{build['id']}/sweep?shown={joint}")
    settle()
    expect(card(page).get_by_role("status")).to_have_text("More is lost than the plan accounts for")
    expect(card(page)).to_contain_text("It looks like a bad joint, or another resistance in line")
    expect(page.get_by_role("region", name="Verdict")).not_to_contain_text("Stop here")
    expect(card(page).get_by_role("img", name=re.compile("Where 100 W go"))).to_be_visible()

    card(page).get_by_label("With a hand on the coax").select_option(label="hand.s1p")
    settle()
    expect(card(page).get_by_role("status")).to_have_text("The coax takes part")
    page.set_viewport_size(PHONE)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_what_moved_against_the_plan_is_told_by_a_press_and_taken_on_wire(page, address, client, loft, settle):
    build, kept = loft
    longer = {**LOFT, "numbers": {**LOFT["numbers"], "leg_m": 2.86 * 1.012}}
    ohm = WireAntenna.model_validate(longer).hung().structure().impedance_at(F)
    kept("longer", lambda _: ohm)
    page.goto(f"{address}/builds/{build['id']}/sweep")
    settle()
    plan = page.get_by_role("region", name="Against the plan")
    plan.get_by_role("button", name="What moved against the plan?").focus()
    page.keyboard.press("Enter")
    settle()
    expect(plan.get_by_role("status")).to_have_text(re.compile("^It hangs"))
    length = plan.get_by_role("row", name=re.compile("^length")).inner_text()
    low, high = (float(m) for m in re.search(r"([\d.]+) m to ([\d.]+) m", length).groups())
    assert low - 0.001 <= longer["numbers"]["leg_m"] <= high + 0.001

    plan.get_by_role("link", name="Take it as it hangs, on Wire").click()
    settle()
    page.get_by_role("button", name="Take it as it hangs").click()
    settle()
    kept_leg = client.get(f"/api/builds/{build['id']}").json()["wire"]["antenna"]["numbers"]["leg_m"]
    assert low - 0.001 <= kept_leg <= high + 0.001


def test_what_was_never_planned_says_where_to_plan_it(page, address, client, settle, match_desk):
    page.get_by_role("link", name="Sweep").first.click()
    settle()
    expect(card(page)).to_contain_text("Plan the antenna on Wire")


def test_a_trimmed_wire_is_judged_as_it_hangs_now(page, address, client, loft, settle):
    build, kept = loft
    hung(client, build, 2.86)
    answer = logged(
        client,
        build,
        {"kind": "reading", "link": 0, "reading": {"kind": "sweep"}},
        sweep_id=kept("hung", lambda z: z + 15),
    )
    assert answer.status_code == 201, answer.text
    page.goto(f"{address}/builds/{build['id']}/trim")
    settle()
    expect(card(page).get_by_role("status")).to_have_text("More is lost than the plan accounts for")
    expect(card(page)).to_contain_text("a bad joint")

    # Cut since, the sweep is of another wire.
    acted(client, build, "cut", 0.02, 0.02)
    page.reload()
    settle()
    expect(card(page)).to_contain_text("Sweep it, and this tells")
