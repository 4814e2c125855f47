"""The one way in for check documents, and the one way they are written down.

`read_json` turns bytes into plain data under rules that leave no room for two readings of one text;
`parse` goes on to the kind's model. `canonical` writes data as one unique text, so that a digest over it
holds on every machine.
"""

from __future__ import annotations

import hashlib
import json
import math
import re
import unicodedata
from itertools import accumulate
from typing import Any

from ..errors import NotJson, quote
from .envelope import Envelope

MAX_BYTES = 1024 * 1024
MAX_DEPTH = 20
GENESIS = "0" * 64


def _no_constant(name: str) -> Any:
    raise NotJson(f"{name} is not a measurable number")


def _no_twin_keys(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) < len(pairs):
        names = [key for key, _ in pairs]
        twin = next(name for name in names if names.count(name) > 1)
        raise NotJson(f"the key {quote(twin)!r} appears twice in one object")
    return found


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise NotJson(f"{quote(text)} is too large to be a measurement")
    return value


def _whole(text: str) -> int:
    if len(text) > 16:
        raise NotJson(f"{quote(text)} has more digits than a reading can have")
    return int(text)


_STEPS = {ord("["): 1, ord("{"): 1, ord("]"): -1, ord("}"): -1}
_OTHERS = bytes(byte for byte in range(256) if byte not in _STEPS)
_NO_BRACKET = re.compile(r'"(?:[^"\\]|\\.)*"?|[^\[\]{}"]+', re.DOTALL)


def _depth(text: str) -> int:
    """Deepest nesting of brackets outside strings, found without recursion."""
    outside = _NO_BRACKET.sub("", text) if "\\" in text else "".join(text.split('"')[::2])
    return max(accumulate(map(_STEPS.__getitem__, outside.encode().translate(None, _OTHERS))), default=0)


def read_json(raw: bytes) -> Any:
    """Bytes to plain data. Raises NotJson: over 1 MiB, not UTF-8, deeper than 20, a key twice, NaN, infinity."""
    if len(raw) > MAX_BYTES:
        raise NotJson(f"{len(raw)} bytes are too many; a check is at most {MAX_BYTES} bytes (1 MiB)")
    try:
        text = raw.decode("utf-8")
    except UnicodeDecodeError as error:
        raise NotJson(f"not UTF-8 text: byte {error.start} cannot be read") from error
    # As deep as there are brackets it can be at most; only then it is worth a walk.
    if text.count("{") + text.count("[") > MAX_DEPTH and _depth(text) > MAX_DEPTH:
        raise NotJson(f"nested deeper than {MAX_DEPTH} levels")
    try:
        data = json.loads(
            text, parse_constant=_no_constant, parse_float=_finite, parse_int=_whole, object_pairs_hook=_no_twin_keys
        )
        if "\\u" in text:  # only escaped can such characters get past the decoding
            text_is_whole(data)
    except json.JSONDecodeError as error:
        raise NotJson(f"not JSON: {error.msg} in line {error.lineno}, column {error.colno}") from error
    return data


def text_is_whole(data: Any) -> None:
    """Raise NotJson when a string holds half of a surrogate pair: it could not be written down again."""
    try:
        json.dumps(data, ensure_ascii=False).encode("utf-8")
    except UnicodeEncodeError as error:
        raise NotJson("a text contains half a character (a lone surrogate)") from error
    if "\\u0000" in json.dumps(data):
        raise NotJson("a text contains a character that cannot be stored (NUL)")


def plain(document: Envelope) -> dict[str, Any]:
    """A document as plain data, without what was left out."""
    return document.model_dump(mode="json", exclude_unset=True)


def _settled(data: Any) -> Any:
    """Strings in NFC, -0.0 as 0.0: one form for one meaning."""
    if isinstance(data, str):
        return unicodedata.normalize("NFC", data)
    if isinstance(data, float):
        return data + 0.0
    if isinstance(data, dict):
        return {_settled(key): _settled(value) for key, value in data.items()}
    if isinstance(data, list | tuple):
        return [_settled(value) for value in data]
    return data


def canonical(data: Any) -> str:
    """Data as its one text: NFC, keys sorted, no blanks, numbers as Python's repr, -0 as 0."""
    return json.dumps(_settled(data), ensure_ascii=False, sort_keys=True, separators=(",", ":"), allow_nan=False)


def digest(data: Any) -> str:
    """SHA-256, as 64 hexadecimal digits, of the canonical text in UTF-8."""
    return hashlib.sha256(canonical(data).encode("utf-8")).hexdigest()
