"""What people write, over HTTP."""

import pytest


class TestQuantities:
    def test_what_people_write(self, client):
        read = client.post("/api/quantities", json={"text": "8' 3 1/2\"", "kind": "length"}).json()
        assert read == {"value": 2.5273, "not_m": None}

    @pytest.mark.parametrize(
        ("text", "unit", "feet", "mistaken"),
        [("5.7 ft", "m", 5.7, 5 + 7 / 12), ("5.7", "ft", 5.7, 5 + 7 / 12), ("5.7", "m", None, None)],
    )
    def test_decimals_of_a_foot_are_told_from_inches(self, client, text, unit, feet, mistaken):
        asked = {"text": text, "kind": "length", "length_unit": unit}
        read = client.post("/api/quantities", json=asked).json()

        assert read["value"] == pytest.approx(5.7 if feet is None else feet * 0.3048)
        assert read["not_m"] == (None if mistaken is None else pytest.approx(mistaken * 0.3048))

    def test_tables_for_a_page_that_cannot_ask(self, client):
        plain = client.get("/api/quantities/plain").json()
        assert plain["frequency"]["units"]["kHz"] == 1e3
        assert set(plain) == {"frequency", "length", "ratio", "resistance", "power"}

    @pytest.mark.parametrize("text", ["8feet", "--3", ""])
    def test_what_is_not_understood_says_how_to_write_it(self, client, text):
        refused = client.post("/api/quantities", json={"text": text, "kind": "length"})

        assert (refused.status_code, refused.json()["code"]) == (422, "not_understood")
        assert refused.json()["accepted"]
