"""Reading the fleet: standings, search, what the core is told of an instrument."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from django.http import Http404

from fleet.models import Instrument
from fleet.tags import settle_tag
from naveta_core.errors import Refused
from naveta_core.schedule import ORDER, Done, Happened, Standing, standing
from shared import paging


@dataclass(frozen=True, slots=True)
class Row:
    """An instrument with where it stands."""

    instrument: Instrument
    standing: Standing

    @property
    def key(self) -> tuple[int, str]:
        return (-ORDER.index(self.standing.state), self.instrument.tag)


def find(tag: str) -> Instrument:
    """The instrument of a tag, however it was typed. Raises Http404."""
    try:
        settled = settle_tag(tag)
    except Refused as error:
        raise Http404(str(error)) from None
    found = Instrument.objects.select_related("model", "crew").filter(tag=settled).first()
    if found is None:
        raise Http404(settled)
    return found


def done_of(fact: dict[str, Any]) -> Done:
    """A stored fact as the core's record."""
    return Done(
        check=fact["check"],
        at=datetime.fromisoformat(fact["at"]),
        grade=fact["grade"],
        stage=fact["stage"],
        codes=tuple(fact["codes"]),
        proved_within_watch=fact["proved_within_watch"],
        finding=fact["finding"],
    )


def happened_of(fact: dict[str, Any]) -> Happened:
    """A stored fact as the core's event."""
    return Happened(fact["event"], datetime.fromisoformat(fact["at"]), fact["note"])


def standing_of(instrument: Instrument, today: date) -> Standing:
    """Where an instrument stands today."""
    facts = instrument.facts
    done = [done_of(one) for one in facts.get("done", [])]
    events = [happened_of(one) for one in facts.get("events", [])]
    return standing(instrument.model.kind, done, events, today)


def yard(today: date, query: str = "") -> list[Row]:
    """Every instrument that answers the search, what needs attention first."""
    wanted = query.strip().lower()
    rows = [
        Row(one, standing_of(one, today))
        for one in Instrument.objects.select_related("model", "crew")
        if not wanted or matches(one, wanted)
    ]
    return sorted(rows, key=lambda row: row.key)


def matches(instrument: Instrument, wanted: str) -> bool:
    """Whether every word of the search stands somewhere in tag, model, place or crew; `lv7` finds LV-07."""
    try:
        return settle_tag(wanted) == instrument.tag
    except Refused:
        pass
    crew = instrument.crew.name if instrument.crew else ""
    text = f"{instrument.tag} {instrument.model} {instrument.model.kind} {instrument.place} {crew} {instrument.serial}".lower()
    return all(word in text for word in wanted.split())


def page_of(rows: list[Row], cursor: str | None, limit: int) -> tuple[list[Row], str | None]:
    """One page of the yard and the mark of the next."""
    size = paging.page_size(limit)
    key = paging.decode(cursor, (int, str))
    rest = rows if key is None else [row for row in rows if row.key > tuple(key)]
    page = rest[:size]
    return page, paging.encode(list(page[-1].key)) if len(rest) > size else None


def known_to_core(instrument: Instrument) -> dict[str, Any]:
    """A document's `instrument`, from what is known of it."""
    return {"kind": instrument.model.kind, **instrument.model.stated}
