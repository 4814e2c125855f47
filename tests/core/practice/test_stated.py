"""The stand obeys what is stated of its instrument, says it, and the advice follows."""

from __future__ import annotations

from dataclasses import replace

import pytest

from naveta_core.documents.envelope import Instrument
from naveta_core.setup.mechanism import see
from naveta_practice.advice import next_move
from naveta_practice.lessons import LESSONS
from naveta_practice.moves import Move, moved
from naveta_practice.seen import seen_of
from naveta_practice.situations import situation_of
from naveta_practice.stand import begun


def stood(seed: int, **stated: object):
    """A whole set-up with its laser on, on an instrument of which this is stated."""
    situation = situation_of("whole-set-up", seed)
    instrument = situation.instrument.model_copy(update=stated)
    equipment = situation.equipment
    if electronic := equipment.electronic:
        equipment = replace(equipment, electronic=replace(electronic, range_arcmin=instrument.tilt_limit_arcmin))
    situation = replace(situation, instrument=instrument, equipment=equipment)
    stand, _ = moved(situation, begun(situation), Move(do="laser"))
    return situation, stand


@pytest.mark.parametrize(("works_tilted", "shows"), [(True, True), (None, True), (False, False)])
def test_a_plummet_that_works_only_when_level_shows_nothing_on_a_tilted_head(
    works_tilted: bool | None, shows: bool
) -> None:
    seen = seen_of(*stood(3, plummet_tilted=works_tilted))
    assert (seen.spot is not None) == shows
    assert seen.plummet_off == (not shows)


def test_within_its_range_it_shows_and_the_advice_is_to_level_with_the_legs_first() -> None:
    situation, stand = stood(3, plummet_tilted=False)
    tilt = see(situation.equipment, stand.state).tilt_arcsec
    assert max(map(abs, tilt)) > 3 * 60, "tilted beyond its 3′"
    advice = next_move(situation, stand)
    assert "leg" in advice.headline
    assert advice.lines[0] == "Its plummet works only when the instrument is level: level first, or shift by a leg."
    # With a range wider than the tilt the same stand shows its plummet, and is carried first.
    wide, stand = stood(3, plummet_tilted=False, tilt_limit_arcmin=600.0)
    assert seen_of(wide, stand).spot is not None
    assert next_move(wide, stand).headline.startswith("Carry the whole tripod")


@pytest.mark.parametrize("step", [1.0, 5.0, 10.0])
def test_the_bubble_on_its_screen_moves_in_its_steps(step: float) -> None:
    situation = situation_of("slide-and-level", 2)
    situation = replace(situation, instrument=situation.instrument.model_copy(update={"bubble_step_arcsec": step}))
    truth, seen = see(situation.equipment, situation.start), seen_of(situation, begun(situation))
    assert truth.along_arcsec is not None
    assert seen.along_arcsec is not None
    assert seen.along_arcsec % step == 0
    assert abs(seen.along_arcsec - truth.along_arcsec) <= step / 2


def test_what_is_stated_is_said_and_nothing_else() -> None:
    situation, stand = stood(3, plummet_tilted=False)
    assert seen_of(situation, stand).stated == [
        "Tilted by more than 3′ its electronic level shuts off, after 4 seconds: tilt it with the legs until it is within that, then use the screws.",
        "Its plummet works only when the instrument is level: level first, or shift by a leg.",
        "One step of the bubble on its screen is 1″: a smaller tilt does not show there.",
    ]
    vials = situation_of("left-thumb", 1)
    assert seen_of(vials, begun(vials)).stated == []


def test_the_same_number_has_the_same_instrument_and_others_differ() -> None:
    drawn = {seed: situation_of("whole-set-up", seed).instrument for seed in range(12)}
    assert all(situation_of("whole-set-up", seed).instrument == found for seed, found in drawn.items())
    assert {found.plummet_tilted for found in drawn.values()} == {True, False}
    assert len({found.tilt_limit_arcmin for found in drawn.values()}) == 3


def test_a_lesson_without_an_electronic_level_states_nothing() -> None:
    for lesson in LESSONS:
        if "electronic" not in lesson.shows:
            assert situation_of(lesson.name, 1).instrument == Instrument()
