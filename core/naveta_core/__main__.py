"""The command line: `naveta reduce FILE.json`, `naveta advise FILE.json`, `naveta due FILE.json`,
`naveta schema KIND`.

Exit 0 with the result on standard output; exit 2 with a line a fault on standard error; exit 1 only for a
fault of ours.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Sequence
from pathlib import Path

from .documents.json_io import read_json
from .errors import NavetaError, NotJson, Refused
from .history.due_list import due
from .registry import DOCUMENTS, parse
from .setup.advisors import advise

USAGE = "usage: naveta reduce FILE.json (or -) | naveta advise FILE.json (or -) | naveta due FILE.json (or -) | naveta schema KIND"


class _MisuseError(NavetaError, ValueError):
    """The command line itself is off."""


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one verb; returns the exit code."""
    words = list(sys.argv[1:] if arguments is None else arguments)
    try:
        print(_run(words))
    except Refused as error:
        return _say(*(str(fault) for fault in error.faults))
    except (NotJson, _MisuseError) as error:
        return _say(str(error))
    except OSError as error:
        return _say(f"{words[-1]}: cannot be read: {error.strerror}")
    except Exception as error:  # a fault of ours: one line, no traceback
        print(f"naveta: internal fault: {type(error).__name__}: {error}", file=sys.stderr)
        return 1
    return 0


def _say(*lines: str) -> int:
    for line in lines:
        print(line, file=sys.stderr)
    return 2


def _raw(subject: str) -> bytes:
    return sys.stdin.buffer.read() if subject == "-" else Path(subject).read_bytes()


def _run(words: list[str]) -> str:
    if len(words) != 2:
        raise _MisuseError(USAGE)
    verb, subject = words
    if verb == "reduce":
        document = parse(_raw(subject))
        data = DOCUMENTS[document.kind].reduce(document).plain()
    elif verb == "advise":
        data = advise(read_json(_raw(subject))).plain()
    elif verb == "due":
        data = due(read_json(_raw(subject))).plain()
    elif verb == "schema":
        if subject not in DOCUMENTS:
            raise _MisuseError(f"kind: given {subject}, allowed: one of {', '.join(sorted(DOCUMENTS))}")
        data = DOCUMENTS[subject].model.model_json_schema()
    else:
        raise _MisuseError(f"verb: given {verb}, allowed: one of reduce, advise, due, schema. {USAGE}")
    return json.dumps(data, ensure_ascii=False, indent=1, allow_nan=False)


if __name__ == "__main__":
    raise SystemExit(main())
