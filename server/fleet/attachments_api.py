"""Photographs and certificates: sent as they are, given to whoever is signed in."""

from __future__ import annotations

from typing import Any

from django.core.files.storage import default_storage
from django.http import FileResponse, Http404, HttpRequest, HttpResponse
from ninja import Router, Status

from fleet import attachments
from fleet.attachments import MAX_CERTIFICATE, MAX_PHOTOGRAPH, MB, AttachmentOut
from fleet.models import Attachment
from fleet.selectors import find
from naveta_core.errors import Fault, Refused
from people.asker import asker
from shared.bodies import Line

router = Router(tags=["fleet"])
YEAR = 365 * 24 * 3600
FILE_BODY = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}


def _body(request: HttpRequest, what: str, most: int) -> bytes:
    """A file sent as it is; refused by its stated length before it is read. Raises Refused."""
    stated = int(request.META.get("CONTENT_LENGTH") or 0)
    if stated > most:
        raise Refused([Fault("file", what, f"{stated / MB:.0f} MB", f"a file of at most {most // MB} MB")])
    data = request.read(most + 1)
    if len(data) > most:
        raise Refused([Fault("file", what, f"more than {most // MB} MB", f"a file of at most {most // MB} MB")])
    if not data:
        raise Refused([Fault("file", what, "nothing", "a file")])
    return data


@router.put(
    "/instruments/{tag}/photograph", response=AttachmentOut, operation_id="keep_photograph", openapi_extra=FILE_BODY
)
def put_photograph(request: HttpRequest, tag: str) -> Any:
    """Keep a picture of how an instrument lies in its case."""
    data = _body(request, "the photograph", MAX_PHOTOGRAPH)
    return attachments.shown(attachments.keep_photograph(actor=asker(request), instrument=find(tag), data=data))


@router.delete("/instruments/{tag}/photograph", response={204: None}, operation_id="remove_photograph")
def delete_photograph(request: HttpRequest, tag: str) -> HttpResponse:
    """Show no picture of its case any more."""
    attachments.remove_photograph(actor=asker(request), instrument=find(tag))
    return HttpResponse(status=204)


@router.put(
    "/instruments/{tag}/certificates",
    response={201: AttachmentOut},
    operation_id="keep_certificate",
    openapi_extra=FILE_BODY,
)
def put_certificate(request: HttpRequest, tag: str, name: Line = "certificate") -> Any:
    """Keep a certificate; the event of its return from service names it by its digest."""
    data = _body(request, "the certificate", MAX_CERTIFICATE)
    kept = attachments.keep_certificate(actor=asker(request), instrument=find(tag), name=name, data=data)
    return Status(201, attachments.shown(kept))


@router.get("/attachments/{digest}", operation_id="get_attachment")
def get_attachment(request: HttpRequest, digest: str) -> FileResponse:
    """A file kept with an instrument; pictures are shown, anything else is saved."""
    row = Attachment.objects.filter(digest=digest).first()
    if row is None or not default_storage.exists(attachments.path_of(digest)):
        raise Http404(digest)
    picture = row.purpose == Attachment.Purpose.CASE
    file = default_storage.open(attachments.path_of(digest))
    answer = FileResponse(file, as_attachment=not picture, filename=row.name, content_type=row.media_type)
    answer["Cache-Control"] = f"private, max-age={YEAR}, immutable"
    return answer
