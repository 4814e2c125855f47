"""What people type: numbers, lengths, angles. Expected values by hand."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from naveta_core.errors import meant, plain_number
from naveta_core.units.angles import parse_angle, show_dms
from naveta_core.units.lengths import in_unit, parse_length
from naveta_core.units.numbers import numeral


@pytest.mark.parametrize(
    ("text", "value", "step"),
    [("1.470", 1.47, 0.001), ("+12", 12, 1), ("−0,5", -0.5, 0.1), (" 3. ", 3, 1), (".25", 0.25, 0.01), ("-0", 0, 1)],
)
def test_plain_numbers(text: str, value: float, step: float) -> None:
    number = numeral(text)
    assert number.value == value
    assert number.step == pytest.approx(step)


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("1.4.2", "one decimal mark"),
        ("1_4", "marks between"),
        ("1e3", "exponent"),
        ("1 470", "blanks"),
        ("nan", "a number"),
        ("inf", "a number"),
        ("٣", "a number"),
        ("", "a number"),
        ("1234567890.123456", "15 digits"),
        ("--1", "a number"),
    ],
)
def test_refused_numbers_say_what_is_wanted(text: str, wanted: str) -> None:
    with pytest.raises(ValueError, match=wanted):
        numeral(text)


@given(st.decimals(min_value=-1000, max_value=1000, places=4))
def test_any_plain_decimal_comes_back(number) -> None:
    assert numeral(str(number)).value == float(number)


@pytest.mark.parametrize(
    ("text", "unit", "metres"),
    [
        ("1.5", "m", 1.5),
        ("5", "ft", 1.524),
        ("330 ft", "m", 100.584),
        ("12 mm", "ft", 0.012),
        ("3937", "usft", 1200.0),
        ("5'3 1/4\"", "m", 63.25 * 0.0254),
        ("5′ 3″", "m", 63 * 0.0254),
        ("-1'6\"", "m", -18 * 0.0254),
        ('3/8"', "m", 0.009525),
        ("1,25m", "ft", 1.25),
        ("10in", "m", 0.254),
    ],
)
def test_lengths_in_their_own_or_the_documents_unit(text: str, unit: str, metres: float) -> None:
    assert parse_length(text, unit).m == pytest.approx(metres, abs=1e-12)


@pytest.mark.parametrize("text", ["5'13\"", "5'3 4/3\"", "'", "ft", "1.4.2 m", "5' 3", "12 yd"])
def test_refused_lengths(text: str) -> None:
    with pytest.raises(ValueError):  # noqa: PT011 - each has its own sentence
        parse_length(text, "m")


def test_last_digit_is_worth_its_unit() -> None:
    assert parse_length("3.444", "ft").step_m == pytest.approx(0.0003048)
    assert parse_length("5'3 1/8\"", "ft").step_m == pytest.approx(0.0254 / 8)


def test_feet_of_both_kinds_differ_by_two_parts_per_million() -> None:
    international, survey = parse_length("1000000", "ft").m, parse_length("1000000", "usft").m
    assert survey - international == pytest.approx(0.6096, abs=1e-3)
    assert in_unit(0.3048, "ft") == pytest.approx(1.0)


@pytest.mark.parametrize(
    ("text", "unit", "degrees"),
    [
        ("102", "dms", 102),
        ("102.43", "dms", 102 + 43 / 60),
        ("102.4305", "dms", 102 + 43 / 60 + 5 / 3600),
        ("102.43055", "dms", 102 + 43 / 60 + 5.5 / 3600),
        ("-0.3000", "dms", -0.5),
        ("102°43′05″", "dms", 102 + 43 / 60 + 5 / 3600),
        ("102 43 05.5", "dms", 102 + 43 / 60 + 5.5 / 3600),
        ("102-43-05", "dms", 102 + 43 / 60 + 5 / 3600),
        ("102.4°", "dms", 102.4),
        ("102.4", "deg", 102.4),
        ("100", "gon", 90),
    ],
)
def test_angles(text: str, unit: str, degrees: float) -> None:
    assert parse_angle(text, unit).value == pytest.approx(degrees, abs=1e-10)


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("102.4", "102.40 or 102.04"),
        ("102.435", "seconds in two digits"),
        ("102.6000", "minutes below 60"),
        ("102.0060", "seconds below 60"),
    ],
)
def test_unclear_angles_are_refused(text: str, wanted: str) -> None:
    with pytest.raises(ValueError, match=wanted):
        parse_angle(text)


def test_shown_angle_never_reads_sixty_seconds() -> None:
    assert show_dms(10 + 59 / 60 + 59.96 / 3600, 1) == "11°00′00.0″"
    assert show_dms(-0.5) == "−0°30′00″"


def test_a_degree_sign_says_what_it_is_whatever_the_rest_is_read_in() -> None:
    assert parse_angle("90°", "gon").value == 90.0
    assert parse_angle("90", "gon").value == pytest.approx(81.0)
    assert parse_angle("12.5°", "deg").value == 12.5


class TestWhatWasMeant:
    """A number out of its range: the sign left out, or the decimal mark moved by the fewest places."""

    @pytest.mark.parametrize(
        ("typed", "low", "high", "suggested"),
        [
            ("14.020", -0.5, 7, "1.4020"),
            ("1562", 0.3, 3, "1.562"),
            ("1,4020", 5, 60, "14,020"),
            ("-4", 0.5, 150, "4"),
            ("0.03", 5, 100, "30"),
        ],
    )
    def test_it_is_suggested(self, typed: str, low: float, high: float, suggested: str) -> None:
        assert meant(typed, low, high) == f". Did you mean {suggested}?"

    @pytest.mark.parametrize("typed", ["1e5", "5'3 1/4\"", "14.020 ft", "", "0.000001"])
    def test_nothing_is_guessed_of_anything_else(self, typed: str) -> None:
        assert meant(typed, 5, 7) == ""

    def test_bounds_are_written_without_exponent(self) -> None:
        assert [plain_number(bound) for bound in (1e16, -0.5, 10_000, 1e-6)] == [
            "10 000 000 000 000 000",
            "−0.5",
            "10 000",
            "0.000001",
        ]
