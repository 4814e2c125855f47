"""Labels to print: the tag large, the model, and a code that holds the address of the instrument's page."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import KW_ONLY, dataclass
from io import BytesIO

from reportlab.graphics import renderPDF
from reportlab.graphics.barcode.qr import QrCodeWidget
from reportlab.graphics.shapes import Drawing
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

from naveta_core.errors import Fault, Refused, quote

BOLD, PLAIN = "Helvetica-Bold", "Helvetica"
MARGIN = 2 * mm
MAX_LABELS = 1_000


@dataclass(frozen=True, slots=True)
class Sheet:
    """A sheet of labels, lengths in millimetres; `page` in points."""

    title: str
    page: tuple[float, float]
    columns: int
    _: KW_ONLY
    rows: int
    width: float
    height: float
    left: float = 0.0
    top: float = 0.0
    gap_x: float = 0.0
    gap_y: float = 0.0

    @property
    def count(self) -> int:
        """Labels on one page."""
        return self.columns * self.rows

    def corner(self, position: int) -> tuple[float, float]:
        """Lower left corner of a label in points; positions count along the rows from the top, from 0."""
        row, column = divmod(position, self.columns)
        x = self.left + column * (self.width + self.gap_x)
        y = self.top + row * (self.height + self.gap_y) + self.height
        return x * mm, self.page[1] - y * mm


SHEETS = {
    "a4-24": Sheet("A4, 24 labels of 70 × 37 mm", A4, 3, rows=8, width=70, height=37, left=0, top=0.5),
    "a4-65": Sheet(
        "A4, 65 labels of 38 × 21 mm", A4, 5, rows=13, width=38.1, height=21.2, left=4.7, top=10.7, gap_x=2.5
    ),
    "letter-30": Sheet(
        "Letter, 30 labels of 67 × 25 mm", LETTER, 3, rows=10, width=66.7, height=25.4, left=4.8, top=12.7, gap_x=3.2
    ),
    "single": Sheet("Label printer, 62 × 29 mm", (62 * mm, 29 * mm), 1, rows=1, width=62, height=29),
}


@dataclass(frozen=True, slots=True)
class Label:
    """What one label says, and the address its code holds."""

    tag: str
    line: str
    address: str


def labels_pdf(labels: Sequence[Label], size: str, first: int = 1) -> bytes:
    """The labels on as many pages as they need, beginning at a place of the first page, so that a sheet begun before is
    used up. Raises Refused."""
    sheet = _checked(labels, size, first)
    out = BytesIO()
    canvas = Canvas(out, pagesize=sheet.page)
    canvas.setTitle("Labels")
    for i, label in enumerate(labels):
        position = (first - 1 + i) % sheet.count
        if i and position == 0:
            canvas.showPage()
        _draw(canvas, sheet, label, *sheet.corner(position))
    canvas.save()
    return out.getvalue()


def _checked(labels: Sequence[Label], size: str, first: int) -> Sheet:
    sheet = SHEETS.get(size)
    if sheet is None:
        raise Refused([Fault("size", "the size", quote(size), "one of " + ", ".join(SHEETS))])
    faults = []
    if not 1 <= first <= sheet.count:
        wanted = f"a label of the sheet, 1 to {sheet.count}"
        faults.append(Fault("first", "the first free label", str(first), wanted))
    if not 1 <= len(labels) <= MAX_LABELS:
        faults.append(Fault("tags", "the instruments", str(len(labels)), f"1 to {MAX_LABELS} instruments"))
    if faults:
        raise Refused(faults)
    return sheet


def _draw(canvas: Canvas, sheet: Sheet, label: Label, x: float, y: float) -> None:
    side = min(sheet.height * mm, sheet.width * mm / 2) - 2 * MARGIN
    _code(canvas, label.address, x + MARGIN, y + (sheet.height * mm - side) / 2, side)
    left = x + side + 2 * MARGIN
    room = sheet.width * mm - side - 4 * MARGIN
    middle = y + sheet.height * mm / 2
    size = _fitting(label.tag, BOLD, room, sheet.height * mm * 0.36)
    canvas.setFont(BOLD, size)
    canvas.drawString(left, middle, label.tag)
    canvas.setFont(PLAIN, _fitting(label.line, PLAIN, room, sheet.height * mm * 0.14))
    canvas.drawString(left, middle - size * 0.62, label.line)


def _fitting(text: str, font: str, room: float, largest: float) -> float:
    """The largest size at which a text fits into its room, in points."""
    return min(largest, largest * room / max(float(stringWidth(text, font, largest)), 1e-6))


def _code(canvas: Canvas, address: str, x: float, y: float, side: float) -> None:
    widget = QrCodeWidget(address, barLevel="M")
    x0, y0, x1, y1 = widget.getBounds()
    drawing = Drawing(side, side, transform=[side / (x1 - x0), 0, 0, side / (y1 - y0), 0, 0])
    drawing.add(widget)
    renderPDF.draw(drawing, canvas, x, y)
