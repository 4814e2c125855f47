"""A proof file: one page that holds records as they are sealed, computes every digest again in any browser, without a
network, and shows what they say. Whoever changes a figure in it changes the text its digest is of."""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator
from pathlib import Path

from django.db.models import QuerySet

from naveta_core.cautions import FOLLOW
from naveta_core.checks import KINDS
from naveta_core.documents.json_io import canonical
from naveta_core.history.events import EVENT_KINDS
from people.firm import organisation
from records.chain import sealed
from records.heads import head_line
from records.models import Record
from reports.pages import FIELD_CHECK
from shared import clock

PAGE = Path(__file__).with_name("proof.html")
PLACE = "<!-- records -->"
MAX_RECORDS = 20_000


def proof(records: QuerySet[Record], title: str) -> Iterator[str]:
    """The page, piece by piece: its head, a line a record, its script."""
    head, foot = PAGE.read_text().split(PLACE)
    firm = organisation().name
    about = {
        "title": title,
        "firm": firm,
        "made": clock.now().isoformat(timespec="seconds"),
        "ends": head_line().text(),
        "field_check": FIELD_CHECK,
        "follow": FOLLOW,
        "names": {kind.name: kind.title for kind in KINDS.values()}
        | {event.name: event.label for event in EVENT_KINDS},
        "people": dict(_people(records)),
    }
    yield head
    yield f'<script type="application/json" id="about">{_safe(json.dumps(about, ensure_ascii=False))}</script>\n'
    rows = records.select_related("instrument", "observed_by", "entered_by").order_by("instrument__tag", "sequence")
    for record in rows.iterator(chunk_size=200):
        # The text itself, as one string: what is hashed is what is shown, to the letter.
        line = json.dumps({"text": canonical(sealed(record)), "digest": record.digest}, ensure_ascii=False)
        yield f'<script type="application/json" class="record">{_safe(line)}</script>\n'
    yield foot


def _people(records: QuerySet[Record]) -> Iterable[tuple[str, str]]:
    return records.order_by().values_list("observed_by__username", "observed_by__name").distinct()


def _safe(text: str) -> str:
    """Within a script element: nothing that would end it."""
    return text.replace("<", "\\u003c")
