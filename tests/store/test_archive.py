"""Archives: out and in, to the byte and to the bit; what cannot be is refused, and nothing of it kept."""

import hashlib
import io
import json
import zipfile
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pytest
import skrf
from photographs import photograph
from sqlalchemy import create_engine, func, select, text
from sqlalchemy.orm import Session

from yielding_coil.core.design import summary_of
from yielding_coil.core.errors import RefusedError
from yielding_coil.documents.archive import Archive, schema
from yielding_coil.documents.design import read_content
from yielding_coil.documents.log import NoteData
from yielding_coil.documents.piece import CorePiece
from yielding_coil.formats.archive import ArchiveReader
from yielding_coil.formats.photograph import read_photograph
from yielding_coil.store.archive_in import contents_of, take_in
from yielding_coil.store.archive_out import collect, written
from yielding_coil.store.engine import connect
from yielding_coil.store.entries import keep_entry
from yielding_coil.store.migrate import migrate
from yielding_coil.store.photographs import keep_photograph
from yielding_coil.store.pieces import keep_piece
from yielding_coil.store.sweeps import impedance_sweep_of
from yielding_coil.store.tables import (
    Base,
    Build,
    Design,
    DesignRevision,
    Entry,
    Photograph,
    Piece,
    Settings,
    SweepRow,
    Tick,
)
from yielding_coil.store.ticks import keep_tick

WHEN = "2026-11-30T00:00:00Z"
TOP = Path(__file__).parents[2]
EARLIER = TOP / "tests" / "earlier"


@pytest.fixture
def other_engine(server):
    """Another installation, empty."""
    admin = create_engine(server.url("postgres"), isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text("DROP DATABASE IF EXISTS another WITH (FORCE)"))
        connection.execute(text("CREATE DATABASE another"))
    engine = connect(server.url("another"))
    migrate(engine)
    yield engine
    engine.dispose()
    with admin.connect() as connection:
        connection.execute(text("DROP DATABASE another WITH (FORCE)"))
    admin.dispose()


@pytest.fixture
def laid(laid_in, engine):
    """The demo builds, with a photograph that says where it was taken, a tick, and a ring in the drawer."""
    with Session(engine) as session, session.begin():
        build = session.scalars(select(Build).where(Build.name == "Orchard end-fed")).one()
        entry = keep_entry(session, build.id, NoteData(), text="open box")
        keep_photograph(session, entry.id, "box.jpg", photograph(gps=True))
        keep_tick(session, build.chosen_design_id, 1, "solder", revision=0, done=True, note="bright", newest=None)
        values = {"mix": "43", "size": "FT240", "al_h": 1.07e-6}
        keep_piece(session, CorePiece(kind="core", name="ring of the shed", count=2, values=values))
    return engine


def out(engine, build=None, *, positions=False):
    with Session(engine) as session:
        ids = None
        if build is not None:
            ids = [session.scalars(select(Build.id).where(Build.name == build)).one()]
        found = collect(session, ids, positions=positions)
    return b"".join(written(engine, found))


def back(engine, data, **more):
    with (
        Session(engine, expire_on_commit=False) as session,
        session.begin(),
        ArchiveReader(io.BytesIO(data)) as reader,
    ):
        return take_in(session, reader, contents_of(reader), **more)


def told_by(data):
    """What an archive says is in it."""
    return json.loads(zipfile.ZipFile(io.BytesIO(data)).read("archive.json"))


def counts(engine):
    with Session(engine) as session:
        return {t.name: session.scalar(select(func.count()).select_from(t)) for t in Base.metadata.sorted_tables}


def build_of(session, name, nth=0):
    return session.scalars(select(Build).where(Build.name == name).order_by(Build.made_at, Build.id)).all()[nth]


def sweeps_of(session, nth):
    build = build_of(session, "Allotment long vertical", nth)
    return session.scalars(select(SweepRow).where(SweepRow.build_id == build.id).order_by(SweepRow.name)).all()


def changed(data, change):
    """The same archive with other contents, its sums set right."""
    return repacked(data, contents=change)


def repacked(data, *, contents=None, parts=None):
    """An archive written anew, by nothing of ours."""
    source = zipfile.ZipFile(io.BytesIO(data))
    held = {i.filename: source.read(i) for i in source.infolist()}
    if parts is not None:
        parts(held)
    if contents is not None:
        told = json.loads(held["archive.json"])
        contents(told)
        held["archive.json"] = json.dumps(told).encode()
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, each in held.items():
            archive.writestr(name, each)
    return made.getvalue()


class TestRound:
    def test_sweeps_come_back_to_the_bit_and_originals_to_the_byte(self, laid):
        back(laid, out(laid, "Allotment long vertical"))
        with Session(laid) as session:
            names = ("original", "data", "doubt", "name", "original_name", "swept_at", "source")
            first, second = (
                [[getattr(row, name) for name in names] for row in sweeps_of(session, nth)] for nth in (0, 1)
            )
            assert len(first) == len(second) == 2
            assert first == second

    def test_predictions_are_equal(self, laid):
        back(laid, out(laid, "Allotment long vertical"))
        with Session(laid) as session:
            found = []
            for nth in (0, 1):
                build = build_of(session, "Allotment long vertical", nth)
                row = session.scalars(
                    select(DesignRevision).where(DesignRevision.design_id == build.chosen_design_id)
                ).one()
                content = read_content(row.content)
                swept = impedance_sweep_of(session.get_one(SweepRow, content.antenna.sweep_id))
                assert session.get_one(SweepRow, content.antenna.sweep_id).build_id == build.id
                found.append((row.summary, summary_of(content.to_core(swept))))
            assert found[0] == found[1]

    def test_twice_over_gives_two_builds_and_no_second_ring(self, laid):
        def ring(told):
            content = told["builds"][0]["designs"][0]["states"][0]["content"]
            content["elements"][0]["piece"] = {"id": told["pieces"][0]["id"], "revision": 1, "values": {}}

        whole = told_by(out(laid))
        data = changed(out(laid, "Orchard end-fed"), lambda told: (told.update(pieces=whole["pieces"]), ring(told)))
        before = counts(laid)
        for _ in range(2):
            back(laid, data)
        after = counts(laid)
        assert after["builds"] == before["builds"] + 2
        assert after["pieces"] == before["pieces"]
        with Session(laid) as session:
            held = session.scalars(select(Piece)).one()
            rows = session.scalars(select(DesignRevision.content)).all()
            taken = [
                c["elements"][0]["piece"]["id"] for c in rows if c["elements"] and c["elements"][0].get("piece")
            ]
            assert taken == [str(held.id)] * 2

    def test_log_ticks_photographs_and_history_come_along(self, laid):
        data = out(laid, "Orchard end-fed", positions=True)
        (made,) = back(laid, data)
        with Session(laid) as session:
            entry = session.scalars(select(Entry).where(Entry.build_id == made.id)).one()
            pictures = session.scalars(select(Photograph).where(Photograph.entry_id == entry.id)).all()
            assert [p.original for p in pictures] == [photograph(gps=True)]
            design = session.get_one(Design, made.chosen_design_id)
            assert design.build_id == made.id
            assert session.scalars(select(Tick.note).where(Tick.design_id == design.id)).all() == ["bright"]

    def test_where_a_photograph_was_taken_stays_here_by_default(self, laid):
        def picture(data):
            archive = zipfile.ZipFile(io.BytesIO(data))
            return archive.read(next(n for n in archive.namelist() if n.startswith("photographs/")))

        assert not read_photograph(picture(out(laid, "Orchard end-fed"))).located
        assert read_photograph(picture(out(laid, "Orchard end-fed", positions=True))).located
        with Session(laid) as session:
            # What is kept here stays as it is.
            assert session.scalars(select(Photograph.located).order_by(Photograph.located)).all() == [False, True]

    def test_the_bin_goes_along_with_everything_and_not_with_one_build(self, laid):
        with Session(laid) as session, session.begin():
            entry = session.scalars(select(Entry).where(Entry.text == "open box")).one()
            entry.deleted_at = datetime.now(UTC)
        one, whole = (
            json.loads(zipfile.ZipFile(io.BytesIO(out(laid, b))).read("archive.json"))
            for b in ("Orchard end-fed", None)
        )
        assert one["builds"][0]["entries"] == []
        binned = [e for b in whole["builds"] for e in b["entries"] if "binned_at" in e]
        assert [e["text"] for e in binned] == ["open box"]
        assert "settings" in whole
        assert "settings" not in one


class TestBackup:
    def test_everything_into_an_empty_place(self, laid, other_engine):
        with Session(laid) as session, session.begin():
            session.get_one(Settings, 1).units = "ft"
        data = out(laid, positions=True)
        back(other_engine, data, settings=True)
        before, after = counts(laid), counts(other_engine)
        assert before == after
        with Session(other_engine) as session:
            assert session.get_one(Settings, 1).units == "ft"

        # And out again it is the same but for the ids.
        def shape(data):
            archive = zipfile.ZipFile(io.BytesIO(data))
            return sorted(archive.getinfo(n).CRC for n in archive.namelist() if n != "archive.json")

        assert shape(out(other_engine, positions=True)) == shape(data)


def test_the_schema_is_published_as_it_is():
    published = json.loads((TOP / "docs" / "archive.schema.json").read_text("utf-8"))
    assert published == schema()


def test_the_first_version_is_read_for_ever(engine):
    """Written on 30 November 2026; a version that comes after upgrades it."""
    (made,) = back(engine, (EARLIER / "archive-1.zip").read_bytes())
    assert made.name == "Allotment long vertical"
    assert counts(engine)["sweeps"] == 2


def test_nothing_in_an_archive_says_where_it_was_made(laid):
    data = out(laid)
    assert b"127.0.0.1" not in data
    assert Archive.model_fields.keys() >= {"builds", "pieces", "calibrations"}


def test_a_sweep_is_a_touchstone_file_that_others_read(laid, tmp_path):
    archive = zipfile.ZipFile(io.BytesIO(out(laid, "Allotment long vertical")))
    name = next(n for n in archive.namelist() if n.endswith(".s1p"))
    path = tmp_path / "sweep.s1p"
    path.write_bytes(archive.read(name))
    read = skrf.Network(str(path))
    with Session(laid) as session:
        row = session.get_one(SweepRow, name.split("/")[1].removesuffix(".s1p"))
        kept = impedance_sweep_of(row)
    np.testing.assert_allclose(read.f, kept.frequency_hz)
    np.testing.assert_allclose(read.z[:, 0, 0], kept.impedance_ohm, rtol=1e-9)


def sums_right(told, held):
    """The contents with the sums that their parts now have."""
    for part in parts_of(told):
        part["sha256"] = hashlib.sha256(held[part["part"]]).hexdigest()


def parts_of(told):
    for build in told["builds"]:
        for sweep in build["sweeps"]:
            yield from (sweep[k] for k in ("data", "original", "doubt") if sweep.get(k))
        yield from (p["file"] for e in build["entries"] for p in e["photographs"])


@pytest.mark.deep
class TestRefused:
    """Whatever it is: said in words, and nothing of it kept."""

    def refused(self, engine, data, match):
        before = counts(engine)
        with pytest.raises(RefusedError, match=match):
            back(engine, data)
        assert counts(engine) == before

    @pytest.mark.parametrize(
        ("name", "match"),
        [
            ("../../etc/passwd", "without a way out"),
            ("/etc/passwd", "without a way out"),
            ("sweeps/../../x.s1p", "without a way out"),
            ("C:\\x.s1p", "without a way out"),
            ("sweeps\\x.s1p", "without a way out"),
            ("sweeps/", "without a way out"),
            ("sweeps/x.s1p", "does not name it"),
            ("archive.json/x", "without a way out"),
        ],
    )
    def test_parts_that_climb_out_or_that_nobody_named(self, laid, name, match):
        data = repacked(out(laid, "Orchard end-fed"), parts=lambda held: held.update({name: b"x"}))
        self.refused(laid, data, match)

    def test_a_bomb_by_ratio(self, laid):
        def zeros(held):
            held["sweeps/zeros.s1p"] = bytes(40 * 1024 * 1024)

        self.refused(laid, repacked(out(laid, "Orchard end-fed"), parts=zeros), "a bomb")

    def test_a_bomb_by_count(self, laid):
        def many(held):
            held.update({f"sweeps/{k}.s1p": b"" for k in range(20_001)})

        self.refused(laid, repacked(out(laid, "Orchard end-fed"), parts=many), "at most 20000")

    def test_a_part_that_says_it_is_shorter(self, laid):
        data = bytearray(out(laid, "Orchard end-fed"))
        at = data.rfind(b"PK\x01\x02")  # the contents' own record stands last
        data[at + 24 : at + 28] = (10).to_bytes(4, "little")
        self.refused(laid, bytes(data), "damaged|not as long")

    def test_encrypted_and_strangely_pressed(self, laid):
        for offset, value, match in ((8, 1, "encrypted"), (10, 14, "pressed in a way")):
            data = bytearray(out(laid, "Orchard end-fed"))
            at = data.find(b"PK\x01\x02")
            data[at + offset] = value
            self.refused(laid, bytes(data), match)

    def test_a_part_twice(self, laid):
        data = io.BytesIO(out(laid, "Orchard end-fed"))
        with zipfile.ZipFile(data, "a") as archive, pytest.warns(UserWarning, match="Duplicate"):
            archive.writestr("archive.json", b"{}")
        self.refused(laid, data.getvalue(), "twice")

    def test_a_wrong_sum_and_a_missing_part(self, laid):
        whole = out(laid, "Allotment long vertical")

        def other(held):
            name = next(n for n in held if n.endswith(".s1p"))
            held[name] = held[name].replace(b" ", b"  ", 1)

        self.refused(laid, repacked(whole, parts=other), "its sum differs")
        self.refused(
            laid, repacked(whole, parts=lambda held: held.pop(next(n for n in held if "/" in n))), "not there"
        )
        self.refused(laid, repacked(whole, parts=lambda held: held.pop("archive.json")), "has no archive.json")

    def test_a_later_version_and_another_format(self, laid):
        whole = out(laid, "Orchard end-fed")
        self.refused(laid, changed(whole, lambda told: told.update(version=2)), "a later Yielding Coil")
        self.refused(laid, changed(whole, lambda told: told.update(version="1")), "no version")
        self.refused(laid, changed(whole, lambda told: told.update(format="other")), "its format must be")
        self.refused(laid, changed(whole, lambda told: told.update(more=1)), "Extra inputs")

    def test_references_to_nothing_and_ids_twice(self, laid):
        whole, nobody = out(laid, "Allotment long vertical"), "00000000-0000-4000-8000-000000000000"

        def of_build(change):
            return changed(whole, lambda told: change(told["builds"][0]))

        self.refused(laid, of_build(lambda b: b.update(baseline_sweep_id=nobody)), "not there")
        self.refused(laid, of_build(lambda b: b["sweeps"][0].update(setup_id=nobody)), "not there")
        self.refused(laid, of_build(lambda b: b["sweeps"][1].update(id=b["sweeps"][0]["id"])), "twice")
        self.refused(laid, of_build(lambda b: b["designs"][0]["states"][0].update(undo_number=7)), "not there")
        antenna = {"kind": "sweep", "sweep_id": nobody}
        self.refused(
            laid, of_build(lambda b: b["designs"][0]["states"][0]["content"].update(antenna=antenna)), "not there"
        )

    def test_a_log_that_cannot_have_been(self, laid):
        cut = {"kind": "cut", "act": "cut", "per_leg_m": [5.0]}
        entry = {
            "id": "00000000-0000-4000-8000-000000000001",
            "number": 99,
            "happened_at": WHEN,
            "data": cut,
        }
        whole = out(laid, "Orchard end-fed")
        self.refused(
            laid, changed(whole, lambda told: told["builds"][0]["entries"].append(entry)), "cannot have been"
        )

    @pytest.mark.parametrize(
        "bad", ["NaN", "1e999", "-Infinity", "9" * 5000, '"\\u0000"', '"\\ud800"', "[" * 5000, "9" * 30]
    )
    def test_what_no_database_keeps(self, laid, bad):
        def put(held):
            held["archive.json"] = held["archive.json"].replace(b'"power_w": 100.0', b'"power_w": ' + bad.encode())

        data = repacked(out(laid, "Orchard end-fed"), contents=lambda told: None)
        self.refused(laid, repacked(data, parts=put), "archive.json|power_w")

    def test_a_renamed_text_as_a_photograph(self, laid):
        def text_for_picture(held):
            held[next(n for n in held if n.startswith("photographs/"))] = b"no picture"
            told = json.loads(held["archive.json"])
            sums_right(told, held)
            held["archive.json"] = json.dumps(told).encode()

        self.refused(laid, repacked(out(laid, "Orchard end-fed"), parts=text_for_picture), "is no photograph")

    @pytest.mark.parametrize("data", [b"", b"PK", b"! sweep\n# MHz S RI R 50\n", b"PK\x05\x06" + bytes(18)])
    def test_what_is_no_archive(self, laid, data):
        self.refused(laid, data, "no archive")


# What is done to a byte, a stretch, a value of the contents; chosen before any was run.
SEEDS = range(7000, 8000)


@pytest.mark.deep
def test_a_thousand_mutated_archives(laid, trials):
    """Bytes turned, cut out, doubled; values of the contents exchanged for anything: refused, or whole."""
    whole = out(laid, "Allotment long vertical")
    told = told_by(whole)
    before = counts(laid)
    refused = taken = 0
    for seed in SEEDS:
        rng = np.random.default_rng(seed)
        data = mutated(whole, told, rng)
        try:
            with Session(laid) as session, ArchiveReader(io.BytesIO(data)) as reader:
                take_in(session, reader, contents_of(reader))
                taken += 1
                session.rollback()
        except RefusedError:
            refused += 1
        if seed % 100 == 0:
            assert counts(laid) == before
    assert counts(laid) == before
    trials.note("a thousand mutated archives", refused=refused, taken_whole=taken)
    assert refused + taken == len(SEEDS)
    # A byte of a time of day or of a ZIP's own notes may be another without harm.
    assert refused > 0.8 * len(SEEDS)


def mutated(whole, told, rng):
    way = rng.integers(5)
    if way == 4:
        return exchanged(whole, told, rng)
    data = bytearray(whole)
    at = int(rng.integers(len(data)))
    much = int(rng.integers(1, 400))
    if way == 0:
        data[at] ^= int(rng.integers(1, 256))
    elif way == 1:
        del data[at : at + much]
    elif way == 2:
        data[at:at] = data[at : at + much]
    else:
        data[at : at + much] = rng.bytes(much)
    return bytes(data)


ANYTHING = (
    None,
    -1,
    0,
    1e300,
    "",
    "x" * 3000,
    [],
    {},
    True,
    "00000000-0000-4000-8000-000000000000",
    [[]],
    2**40,
    "../..",
)


def exchanged(whole, told, rng):
    """One value of the contents, wherever it stands, is something else."""
    other = json.loads(json.dumps(told))
    holder = other
    for _ in range(int(rng.integers(1, 9))):
        keys = list(holder) if isinstance(holder, dict) else list(range(len(holder)))
        if not keys:
            break
        key = keys[int(rng.integers(len(keys)))]
        inner = holder[key]
        if not isinstance(inner, dict | list) or rng.random() < 0.15:
            holder[key] = ANYTHING[int(rng.integers(len(ANYTHING)))]
            break
        holder = inner
    return repacked(whole, contents=lambda found: (found.clear(), found.update(other)))
