"""A series on paper: findings with their uncertainty between the limits, events as broken lines, the trend through them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime
from math import floor, log10
from typing import Any

from reportlab.graphics.shapes import Drawing, Line, PolyLine, Rect, String
from reportlab.lib.colors import HexColor

from reports.pages import BOLD, INK, PLAIN, QUIET, WIDTH, Writer

HEIGHT, LEFT, RIGHT, TOP, FOOT = 150.0, 46.0, 6.0, 16.0, 20.0
BAND, EDGE = HexColor("#dfe6cf"), HexColor("#5b7a3a")
Data = dict[str, Any]
MAX_WORDS = 8


def series_drawing(series: Data, until: datetime, names: dict[str, str], write: Writer) -> Drawing:
    """A series as `records.selectors.series` has it; times to the right, `until` at the end. In its own unit."""
    drawing = Drawing(WIDTH, HEIGHT)
    points, events = series["points"], series["events"]
    times = [datetime.fromisoformat(each["at"]) for each in (*points, *events)]
    first = min(times)
    width: float = WIDTH - LEFT - RIGHT - 12
    span = max((until - first).total_seconds(), 1.0)
    most: float = max(max(abs(p["value"]) + p["u95"], p["use"] * 1.25) for p in points)

    def x(at: str) -> float:
        return LEFT + 6 + (datetime.fromisoformat(at) - first).total_seconds() / span * width

    def y(value: float) -> float:
        return FOOT + (value / most + 1) / 2 * (HEIGHT - TOP - FOOT)

    limit = points[-1]["use"]
    drawing.add(Rect(LEFT, y(-limit), WIDTH - LEFT - RIGHT, y(limit) - y(-limit), fillColor=BAND, strokeColor=None))
    for level in (limit, -limit, 0.0):
        drawing.add(Line(LEFT, y(level), WIDTH - RIGHT, y(level), strokeColor=EDGE, strokeWidth=1.2 if level else 0.5))
    for tick in ticks(most):
        text = f"{'+' if tick > 0 else '−' if tick < 0 else ''}{abs(tick):g}{series['unit']}"
        drawing.add(
            String(LEFT - 4, y(tick) - 3, write(text), fontName=PLAIN, fontSize=7, fillColor=QUIET, textAnchor="end")
        )
    _events(drawing, events, x, names)
    _trend(drawing, series["trend"], x, y)
    for point in points:
        _finding(drawing, point, x(point["at"]), y)
    for at, anchor, place in ((first, "start", LEFT), (until, "end", WIDTH - RIGHT)):
        drawing.add(String(place, 5, f"{at:%d %b %Y}", fontName=PLAIN, fontSize=7, fillColor=QUIET, textAnchor=anchor))
    return drawing


def ticks(most: float) -> list[float]:
    """Round figures on both sides of zero, at most four each. In the unit of `most`, any unit."""
    step = 10 ** floor(log10(most))
    step = next(step * part for part in (0.2, 0.5, 1, 2, 5) if most / (step * part) <= 4)
    count = int(most / step)
    return [round(n * step, 10) for n in range(-count, count + 1)]


def _events(drawing: Drawing, events: Sequence[Data], x: Callable[[str], float], names: dict[str, str]) -> None:
    last = float("-inf")
    for event in events:
        at = x(event["at"])
        drawing.add(Line(at, FOOT - 4, at, HEIGHT - TOP, strokeColor=INK, strokeWidth=0.7, strokeDashArray=[2, 2]))
        if at - last > 60:
            name = names.get(event["event"], event["event"])
            drawing.add(
                String(at, HEIGHT - TOP + 4, name, fontName=BOLD, fontSize=7, fillColor=INK, textAnchor="middle")
            )
            last = at


def _trend(drawing: Drawing, trend: Any, x: Callable[[str], float], y: Callable[[float], float]) -> None:
    line = trend.line if trend else []
    if len(line) < 2:
        return
    low, high = FOOT, HEIGHT - TOP

    def path(of: str) -> list[float]:
        return [each for point in line for each in (x(point.at), min(high, max(low, y(getattr(point, of)))))]

    for bound in ("low", "high"):
        drawing.add(PolyLine(path(bound), strokeColor=INK, strokeWidth=0.7, strokeDashArray=[1, 2.5]))
    drawing.add(PolyLine(path("value"), strokeColor=INK, strokeWidth=1.4))


def _finding(drawing: Drawing, point: Data, x: float, y: Callable[[float], float]) -> None:
    drawing.add(
        Line(x, y(point["value"] - point["u95"]), x, y(point["value"] + point["u95"]), strokeColor=INK, strokeWidth=0.9)
    )
    fill = None if point["stage"] == "as-left" else INK
    drawing.add(Rect(x - 3, y(point["value"]) - 1.4, 6, 2.8, fillColor=fill, strokeColor=INK, strokeWidth=0.8))
