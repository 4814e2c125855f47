"""Pictures of cases, drawn, and a certificate, written: nothing of them is anybody's."""

from __future__ import annotations

from io import BytesIO

from PIL import Image, ImageDraw
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas

from fleet.attachments import keep_certificate, keep_photograph
from fleet.selectors import find
from people.models import Person

FOAM, DARK, BODY, GLASS = (74, 78, 82), (48, 51, 54), (196, 178, 132), (120, 150, 160)
LAYOUTS = {
    "LV-02": [("body", (330, 250, 980, 560)), ("glass", (980, 330, 1090, 480)), ("body", (130, 620, 420, 720))],
    "TS-01": [("body", (380, 140, 900, 660)), ("glass", (560, 300, 720, 460)), ("body", (960, 160, 1130, 360)),
              ("body", (960, 420, 1130, 640)), ("body", (140, 180, 310, 420))],
}  # fmt: skip
"""What lies where in a case, on a picture of 1,280 by 800 pixels."""


def write_files(manager: Person) -> None:
    """A picture of two cases, and the certificate a total station came back with."""
    for tag, parts in LAYOUTS.items():
        keep_photograph(actor=manager, instrument=find(tag), data=_case(parts))
    keep_certificate(actor=manager, instrument=find("TS-01"), name="Service TS-01.pdf", data=_certificate())


def _case(parts: list[tuple[str, tuple[int, int, int, int]]]) -> bytes:
    picture = Image.new("RGB", (1280, 800), FOAM)
    draw = ImageDraw.Draw(picture)
    draw.rounded_rectangle((30, 30, 1250, 770), radius=40, outline=DARK, width=14)
    for what, (left, top, right, bottom) in parts:
        draw.rounded_rectangle((left - 18, top - 18, right + 18, bottom + 18), radius=34, fill=DARK)
        draw.rounded_rectangle((left, top, right, bottom), radius=26, fill=GLASS if what == "glass" else BODY)
    written = BytesIO()
    picture.save(written, "JPEG", quality=88)
    return written.getvalue()


def _certificate() -> bytes:
    written = BytesIO()
    page = Canvas(written, pagesize=A4, invariant=1)
    page.setFont("Helvetica-Bold", 16)
    page.drawString(60, 760, "Marrick workshop: service report")
    page.setFont("Helvetica", 11)
    lines = (
        "Instrument TS-01, Marrick Tessaly",
        "Cleaned, tracker aligned; stored values set to zero.",
        "Invented for the demo.",
    )
    for row, line in enumerate(lines):
        page.drawString(60, 730 - 18 * row, line)
    page.save()
    return written.getvalue()
