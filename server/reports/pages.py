"""What every report has in common: paper, letters, headings, tables, the lines on top and at the foot of each page.

A report is plainly headed as a field check, with whose rules count; nothing in it calls itself an accredited calibration.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from io import BytesIO
from pathlib import Path
from typing import Any, cast
from xml.sax.saxutils import escape

import reportlab
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import registerFont, registerFontFamily
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import BaseDocTemplate, Flowable, Frame, KeepTogether, PageTemplate, Paragraph, Spacer, Table

from naveta_core.cautions import FOLLOW
from naveta_core.wording import DecimalMark, LengthUnit, StaffWord, Wording
from people.firm import organisation
from shared import clock

FIELD_CHECK = "Field check: not an accredited calibration"
FONTS = Path(reportlab.__file__).parent / "fonts"
PLAIN, BOLD = "Vera", "Vera-Bold"
INK, QUIET, LINE = HexColor("#11273a"), HexColor("#4a5a66"), HexColor("#c9bfae")
MARGIN, HEAD = 17 * mm, 20 * mm
WIDTH = A4[0] - 2 * MARGIN
REPLACED = str.maketrans({"″": '"', "′": "'", "σ": "s", "Δ": "d", "→": "to", "\u2009": " ", "\u202f": " ", "ν": "v"})
"""Signs the letters of the paper do not have."""


def _fonts() -> None:
    for name, file in ((PLAIN, "Vera.ttf"), (BOLD, "VeraBd.ttf")):
        registerFont(TTFont(name, str(FONTS / file)))
    registerFontFamily(PLAIN, normal=PLAIN, bold=BOLD, italic=PLAIN, boldItalic=BOLD)


_fonts()
_BASE = ParagraphStyle("text", fontName=PLAIN, fontSize=9, leading=12.5, textColor=INK)
STYLES = {
    "text": _BASE,
    "sub": ParagraphStyle("sub", _BASE, textColor=QUIET, fontSize=8, leading=11),
    "title": ParagraphStyle("title", _BASE, fontName=BOLD, fontSize=16, leading=20, spaceAfter=2),
    "heading": ParagraphStyle("heading", _BASE, fontName=BOLD, fontSize=10.5, leading=14, spaceBefore=9, spaceAfter=3),
    "cell": ParagraphStyle("cell", _BASE, fontSize=8, leading=10.5),
    "cell-head": ParagraphStyle("cell-head", _BASE, fontName=BOLD, fontSize=8, leading=10.5),
    "code": ParagraphStyle("code", _BASE, fontName="Courier", fontSize=7.2, leading=9, wordWrap="CJK"),
    "caution": ParagraphStyle("caution", _BASE, borderColor=INK, borderWidth=0.8, borderPadding=5, spaceBefore=8),
}


_CELLS: tuple[Any, ...] = (
    ("VALIGN", (0, 0), (-1, -1), "TOP"),
    ("LINEBELOW", (0, 0), (-1, -1), 0.4, LINE),
    ("LEFTPADDING", (0, 0), (-1, -1), 0),
    ("TOPPADDING", (0, 0), (-1, -1), 2),
    ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
)


class Writer:
    """Sentences as the firm writes them: its word for a staff, its decimal mark, signs the letters have."""

    def __init__(self) -> None:
        firm = organisation()
        self.firm = firm.name
        self.wording = Wording(
            cast(StaffWord, firm.staff_word), cast(DecimalMark, firm.decimal_mark), cast(LengthUnit, firm.length_unit)
        )

    def __call__(self, text: str) -> str:
        """A sentence or figure."""
        return signs(self.wording.written(text))


def signs(text: str) -> str:
    """Text with the signs the letters have; what a person typed goes through this alone."""
    return text.translate(REPLACED)


class Page:
    """A report as it grows: each act adds to it, in the order of reading."""

    def __init__(self, title: str, sub: str, *, name: str = "") -> None:
        """title: ours; name: what somebody called it, behind the title; sub: names and days."""
        self.write = Writer()
        self.title = f"{self.write(title)}{signs(name)}"
        self.story: list[Flowable] = [self._paragraph(self.title, "title"), self._paragraph(signs(sub), "sub")]

    def _paragraph(self, text: str, style: str) -> Paragraph:
        return Paragraph(escape(text), STYLES[style])

    def heading(self, text: str) -> None:
        """A heading that stays with what follows it."""
        style = ParagraphStyle("kept", STYLES["heading"], keepWithNext=1)
        self.story.append(Paragraph(escape(self.write(text)), style))

    def text(self, text: str, style: str = "text") -> None:
        """A sentence of the core; nothing where there is none."""
        if text:
            self.story.append(self._paragraph(self.write(text), style))

    def strong(self, text: str) -> None:
        """What was found, in one sentence."""
        self.story += [Spacer(1, 5), Paragraph(f"<b>{escape(self.write(text))}</b>", _larger())]

    def typed(self, text: str) -> None:
        """What somebody typed, to the letter."""
        if text:
            self.story.append(self._paragraph(signs(text), "text"))

    def code(self, text: str) -> None:
        """A digest."""
        self.story.append(self._paragraph(text, "code"))

    def facts(self, rows: Sequence[tuple[str, str]]) -> None:
        """Names and values, two columns; rows without a value are left out."""
        self.table([], [[name, value] for name, value in rows if value], widths=[38 * mm, WIDTH - 38 * mm], typed=(1,))

    def table(
        self,
        head: Sequence[str],
        rows: Sequence[Sequence[str]],
        widths: Sequence[float] | None = None,
        typed: Collection[int] = (),
    ) -> None:
        """A table over the whole width; its head stands again on each page. typed: columns that stay to the letter."""
        if not rows:
            return
        cells = [[self._paragraph(self.write(cell), "cell-head") for cell in head]] if head else []
        cells += [
            [self._paragraph(signs(cell) if i in typed else self.write(cell), "cell") for i, cell in enumerate(row)]
            for row in rows
        ]
        parts = list(widths) if widths else [1.0] * len(rows[0])
        table = Table(
            cells,
            colWidths=[WIDTH * part / sum(parts) for part in parts],
            repeatRows=1 if head else 0,
            hAlign="LEFT",
        )
        style: list[Any] = list(_CELLS)
        if head:
            style.append(("LINEBELOW", (0, 0), (-1, 0), 1.2, INK))
        table.setStyle(style)
        self.story += [table, Spacer(1, 3)]

    def readings(self, head: Sequence[str], rows: Sequence[Sequence[str]]) -> None:
        """A table of what was typed, to the letter."""
        cells = [[Paragraph(escape(cell), STYLES["cell-head"]) for cell in head]]
        cells += [[Paragraph(escape(signs(cell)), STYLES["cell"]) for cell in row] for row in rows]
        table = Table(cells, colWidths=[min(WIDTH / len(head), 90)] * len(head), repeatRows=1, hAlign="LEFT")
        table.setStyle([*_CELLS, ("LINEBELOW", (0, 0), (-1, 0), 1.2, INK)])
        self.story += [table, Spacer(1, 3)]

    def drawing(self, drawing: Flowable, below: str = "") -> None:
        """A drawing with the sentence that says what it shows."""
        parts = [drawing, *([self._paragraph(self.write(below), "sub")] if below else [])]
        self.story.append(KeepTogether(parts))

    def cautions(self, texts: Sequence[str]) -> None:
        """What can hurt, closed by whose rules count."""
        lines = [text for text in texts if text != FOLLOW]
        self.story += [
            Spacer(1, 6),
            Paragraph("<br/>".join(escape(self.write(line)) for line in [*lines, FOLLOW]), STYLES["caution"]),
        ]

    def pdf(self) -> bytes:
        """The whole as a PDF."""
        out = BytesIO()
        document = BaseDocTemplate(
            out, pagesize=A4, title=self.title, author=self.write.firm or "Naveta", subject=FIELD_CHECK,
            leftMargin=MARGIN, rightMargin=MARGIN, topMargin=HEAD, bottomMargin=HEAD, invariant=1,
        )  # fmt: skip
        frame = Frame(MARGIN, HEAD, WIDTH, A4[1] - 2 * HEAD, 0, 0, 0, 0)
        document.addPageTemplates([PageTemplate("page", [frame], onPage=self._around)])
        document.build(self.story, canvasmaker=_Counting)
        return out.getvalue()

    def _around(self, canvas: Canvas, _document: Any) -> None:
        canvas.saveState()
        canvas.setFillColor(INK)
        canvas.setFont(BOLD, 8)
        canvas.drawString(MARGIN, A4[1] - 12 * mm, FIELD_CHECK)
        canvas.setFont(PLAIN, 8)
        canvas.drawRightString(A4[0] - MARGIN, A4[1] - 12 * mm, signs(self.write.firm))
        canvas.setStrokeColor(INK)
        canvas.line(MARGIN, A4[1] - 14.5 * mm, A4[0] - MARGIN, A4[1] - 14.5 * mm)
        canvas.setFont(PLAIN, 7.5)
        at = clock.now().astimezone(clock.zone())
        canvas.drawString(MARGIN, 11 * mm, f"Naveta, {at:%d %B %Y %H:%M}. {FOLLOW}")
        canvas.restoreState()


def _larger() -> ParagraphStyle:
    return ParagraphStyle("found", _BASE, fontSize=12, leading=16, spaceAfter=3)


class _Counting(Canvas):  # type: ignore[misc]  # reportlab has no types
    """Writes "2 of 3" on each page, once it is known how many there are."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._pages: list[dict[str, Any]] = []

    def showPage(self) -> None:  # noqa: N802  reportlab's name
        self._pages.append(dict(self.__dict__))
        self._startPage()

    def save(self) -> None:
        for page in self._pages:
            self.__dict__.update(page)
            self.setFont(PLAIN, 7.5)
            self.setFillColor(INK)
            self.drawRightString(A4[0] - MARGIN, 11 * mm, f"{self.getPageNumber()} of {len(self._pages)}")
            super().showPage()
        super().save()
