"""What service cost: every stay from the records, summed by year and model."""

from __future__ import annotations

import json
from dataclasses import asdict
from datetime import date
from typing import Any

from naveta_core.history.service import ServiceEvent, by_year, stays
from records.models import Record
from records.times import happened_at
from shared import clock


def service_costs(today: date) -> dict[str, Any]:
    """Years with their models, and what is away now with the days it has been."""
    rows = Record.objects.filter(kind__in=("service-out", "service-in"), amendments__isnull=True)
    rows = rows.select_related("instrument__model").order_by("observed_at_utc", "sequence")
    found = stays(_event(row) for row in rows)
    away = [stay for stay in found if stay.back is None]
    return {
        "years": [asdict(entry) for entry in by_year(found, today)],
        "away": [{"tag": stay.tag, "model": stay.model, "since": stay.out, "days": stay.days(today)} for stay in away],
    }


def _event(row: Record) -> ServiceEvent:
    document = json.loads(row.document)
    return ServiceEvent(
        tag=row.instrument.tag,
        model=str(row.instrument.model),
        out=row.kind == "service-out",
        day=happened_at(row).astimezone(clock.zone()).date(),
        cost=document.get("cost", 0.0),
        days_cost=document.get("days_cost", 0.0),
    )
