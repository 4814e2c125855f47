"""Files kept with instruments: a picture of how each lies in its case, certificates. Named by their digest, never changed.

A picture is turned upright, made smaller and written again, so that nothing a phone writes beside it (place, time, owner)
is kept. A certificate is kept as it came.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from io import BytesIO
from typing import Any

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from ninja import Schema
from PIL import Image, ImageOps, UnidentifiedImageError

from fleet.models import Attachment, Instrument
from fleet.services import mark_changed
from naveta_core.errors import Fault, Refused
from people.models import Person
from shared import clock
from shared.rights import require

MB = 1024 * 1024
MAX_PHOTOGRAPH = 15 * MB
MAX_CERTIFICATE = 20 * MB
MAX_PIXELS = 80_000_000
MAX_SIDE = 1600
QUALITY = 82
Image.MAX_IMAGE_PIXELS = None
"""Sizes are looked at here: a picture is opened only as far as its size."""
CERTIFICATES = {b"%PDF-": "application/pdf", b"\xff\xd8\xff": "image/jpeg", b"\x89PNG\r\n\x1a\n": "image/png"}
"""What a certificate may be, by its first bytes."""


class AttachmentOut(Schema):
    """A file kept with an instrument."""

    digest: str
    name: str
    media_type: str
    size: int
    by: str
    at: datetime
    path: str


def path_of(digest: str) -> str:
    """Where a file is kept in the storage."""
    return f"attachments/{digest[:2]}/{digest}"


def attached(instrument: Instrument) -> dict[str, Any]:
    """What a passport shows: the picture of the case, and every certificate, the latest first."""
    rows = instrument.attachments.select_related("by").filter(removed_at=None).order_by("-at", "-pk")
    pictures = [row for row in rows if row.purpose == Attachment.Purpose.CASE]
    return {
        "photograph": address_of(pictures[0]) if pictures else None,
        "certificates": [shown(row) for row in rows if row.purpose == Attachment.Purpose.CERTIFICATE],
    }


def address_of(row: Attachment) -> str:
    """The path of a file for whoever is signed in."""
    return f"/api/attachments/{row.digest}"


def shown(row: Attachment) -> dict[str, Any]:
    """An attachment as it is listed."""
    return {
        **{name: getattr(row, name) for name in ("digest", "name", "media_type", "size", "at")},
        "by": row.by.name,
        "path": address_of(row),
    }


def keep_photograph(*, actor: Person, instrument: Instrument, data: bytes) -> Attachment:
    """A picture of how it lies in its case; the one before it is no longer shown. Raises Forbidden, Refused."""
    require(actor, "note-event")
    picture = upright(data)
    with transaction.atomic():
        instrument.attachments.filter(purpose=Attachment.Purpose.CASE, removed_at=None).update(removed_at=clock.now())
        return _keep(actor, instrument, Attachment.Purpose.CASE, name="case.jpg", media_type="image/jpeg", data=picture)


def remove_photograph(*, actor: Person, instrument: Instrument) -> None:
    """Show no picture any more. Raises Forbidden."""
    require(actor, "note-event")
    instrument.attachments.filter(purpose=Attachment.Purpose.CASE, removed_at=None).update(removed_at=clock.now())
    mark_changed(Instrument.objects.filter(pk=instrument.pk))


def keep_certificate(*, actor: Person, instrument: Instrument, name: str, data: bytes) -> Attachment:
    """A certificate as it came, by its digest. Raises Forbidden, Refused."""
    require(actor, "send-away")
    media_type = next((kind for start, kind in CERTIFICATES.items() if data.startswith(start)), None)
    if media_type is None:
        raise Refused([Fault("file", "the certificate", _named(name, data), "a PDF, JPEG or PNG file")])
    with transaction.atomic():
        return _keep(
            actor, instrument, Attachment.Purpose.CERTIFICATE, name=name.strip()[:120], media_type=media_type, data=data
        )


def _named(name: str, data: bytes) -> str:
    return f"{name.strip()[:60] or 'a file'} of {len(data)} bytes"


@contextmanager
def _readable(data: bytes) -> Iterator[None]:
    try:
        yield
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError):
        wanted = "a picture: JPEG, PNG or WebP"
        raise Refused([Fault("file", "the photograph", f"a file of {len(data)} bytes", wanted)]) from None


def upright(data: bytes) -> bytes:
    """A picture as it is kept: upright, at most 1,600 pixels long, a plain JPEG with nothing beside it. Raises Refused."""
    with _readable(data):
        found = Image.open(BytesIO(data))
    if found.width * found.height > MAX_PIXELS:
        given = f"{found.width} by {found.height} pixels"
        raise Refused([Fault("file", "the photograph", given, "a picture of at most 80 million pixels")])
    with _readable(data):
        turned = ImageOps.exif_transpose(found).convert("RGB")
    turned.thumbnail((MAX_SIDE, MAX_SIDE))
    plain = Image.new("RGB", turned.size)
    plain.paste(turned)
    written = BytesIO()
    plain.save(written, "JPEG", quality=QUALITY, optimize=True)
    return written.getvalue()


def _keep(
    actor: Person, instrument: Instrument, purpose: str, *, name: str, media_type: str, data: bytes
) -> Attachment:
    digest = hashlib.sha256(data).hexdigest()
    # The file first: a row never names one that is not there.
    if not default_storage.exists(path_of(digest)):
        default_storage.save(path_of(digest), ContentFile(data))
    facts = {
        "name": name,
        "media_type": media_type,
        "size": len(data),
        "by": actor,
        "at": clock.now(),
        "removed_at": None,
    }
    row, _ = Attachment.objects.update_or_create(instrument=instrument, purpose=purpose, digest=digest, defaults=facts)
    mark_changed(Instrument.objects.filter(pk=instrument.pk))
    return row
