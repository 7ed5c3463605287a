"""Entries in the trade's notation, and the words by which pages, parts and fields are found."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from boardmath.buildfile import read_build
from boardmath.model.inputs import cell_voltages
from boardmath.parts.part_types import KINDS
from planner.design.entry import BELT, CAPACITY, EntryError, read_entry
from planner.trade_words import FIELD_NAMES, PART_NAMES, TERMS
from scripts.cluster import ROOT
from scripts.generate_types import figures
from tests.core.boards import SPIT_RUNNER, changed

SERIES, PARALLEL = "parts.pack.series", "parts.pack.parallel"
BOARD = read_build(SPIT_RUNNER)


@given(st.integers(1, 24), st.integers(1, 60), st.sampled_from(["{}S{}P", "{}s{}p", "{} s {} p", " {}S {}p "]))
def test_cells_in_series_and_parallel_are_read_in_any_spelling(series, parallel, spelling):
    for path in (SERIES, PARALLEL):
        assert read_entry(BOARD, path, spelling.format(series, parallel)).changes == {
            SERIES: series,
            PARALLEL: parallel,
        }


def test_one_half_of_the_notation_sets_one_half():
    assert read_entry(BOARD, PARALLEL, "4P").changes == {PARALLEL: 4}
    assert read_entry(BOARD, SERIES, "12s").changes == {SERIES: 12}


@pytest.mark.parametrize("text", ["30S4P", "0S2P", "10S99P", "", "ten", "10S4", "4P10S"])
def test_other_counts_are_refused_with_a_reason(text):
    with pytest.raises(EntryError):
        read_entry(BOARD, SERIES, text)


@given(st.integers(4, 16), st.integers(1, 8), st.floats(1.0, 20.0))
def test_the_energy_of_a_pack_is_shared_by_its_cells(series, parallel, capacity):
    """The energy that a pack of known cells has, typed in, gives those cells' capacity again."""
    board = read_build(changed(SPIT_RUNNER, {SERIES: series, PARALLEL: parallel}))
    energy = series * parallel * capacity * cell_voltages(board.parts.pack)[1]
    for text in (f"{energy:.4f} Wh", f"{energy / 1000:.7f}kwh", f"{energy:.4f}Wh".replace(".", ",")):
        assert read_entry(board, CAPACITY, text).changes[CAPACITY] == pytest.approx(capacity, abs=2e-3)


def test_energy_is_not_shared_by_an_unknown_number_of_cells():
    with pytest.raises(EntryError, match="series first"):
        read_entry(read_build(changed(SPIT_RUNNER, {SERIES: None})), CAPACITY, "250 Wh")
    with pytest.raises(EntryError, match="outside"):
        read_entry(BOARD, CAPACITY, "90 kWh")


@given(st.integers(20, 400), st.sampled_from([3.0, 5.0, 8.0]), st.sampled_from(["{:g} mm", "{:g}mm", " {:g} MM "]))
def test_a_belt_in_millimetres_is_its_teeth(teeth, pitch_mm, spelling):
    board = read_build(changed(SPIT_RUNNER, {"parts.drive.pitch_mm": pitch_mm}))
    assert read_entry(board, BELT, spelling.format(teeth * pitch_mm)).changes == {BELT: teeth}


def test_a_belt_of_another_pitch_or_without_a_unit_is_asked_back():
    assert read_entry(BOARD, BELT, "315 mm").changes == {BELT: 63}
    with pytest.raises(EntryError, match=r"310 mm \(62 teeth\) or 315 mm \(63 teeth\)"):
        read_entry(BOARD, BELT, "312 mm")
    with pytest.raises(EntryError, match="315 mm"):
        read_entry(BOARD, BELT, "long")
    with pytest.raises(EntryError, match="outside"):
        read_entry(BOARD, BELT, "9000 mm")


def test_every_name_is_of_something_that_there_is():
    fields = figures()
    assert set(PART_NAMES) == set(KINDS)
    assert not set(FIELD_NAMES) - set(fields)
    assert not {field for term in TERMS for field in term.fields} - set(fields)


@pytest.mark.parametrize("term", TERMS, ids=lambda term: term.slug)
def test_a_term_is_explained_in_two_sentences_and_has_the_drawing_it_describes(term):
    assert len(re.findall(r"[.!?](?: |$)", term.text)) == 2
    drawing = ROOT / "frontend" / "src" / "lib" / "terms" / f"{term.slug}.svg"
    assert drawing.exists() == (term.drawing is not None)
