"""What service cost."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from records.service_costs import service_costs
from shared import clock

router = Router(tags=["plan"])


class ServiceYearOut(Schema):
    """One model in one year: stays at service, days away, and what was noted as cost, in the firm's currency."""

    year: int
    model: str
    services: int
    days: int
    cost: float
    days_cost: float


class AwayOut(Schema):
    """An instrument at service now."""

    tag: str
    model: str
    since: date
    days: int


class ServiceCosts(Schema):
    """Service by year and model, and what is away now."""

    years: list[ServiceYearOut]
    away: list[AwayOut]


@router.get("/service-costs", response=ServiceCosts, operation_id="service_costs")
def get_service_costs(request: HttpRequest) -> Any:
    """What service and the days without an instrument cost, by year and model."""
    return service_costs(clock.today())
