"""Bodies that hold no document go through the same strict reading: no key twice, no unknown field, no endless text."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Schema
from ninja.parser import Parser
from pydantic import ConfigDict, Field

from naveta_core.documents.json_io import read_json
from naveta_core.errors import NotJson

MAX_BYTES = 16 * 1024
TABLE_BYTES = 400_000
Word = Annotated[str, Field(max_length=60)]
Line = Annotated[str, Field(max_length=200)]
Note = Annotated[str, Field(max_length=500)]
Table = Annotated[str, Field(max_length=TABLE_BYTES)]
Tag = Annotated[str, Field(max_length=20)]
Password = Annotated[str, Field(max_length=200)]


class Body(Schema):
    """What a body may be: only the fields that are named."""

    model_config = ConfigDict(extra="forbid")


class StrictParser(Parser):
    """Ninja's parser, by the core's rules; a body without a table in it is small."""

    def parse_body(self, request: HttpRequest) -> Any:
        most = MAX_BYTES if not request.path.rstrip("/").endswith(("/csv", "/table")) else 2 * TABLE_BYTES
        if len(request.body) > most:
            raise NotJson(f"{len(request.body)} bytes are too many; this is at most {most} bytes")
        return read_json(request.body)
