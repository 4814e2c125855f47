"""What is planned: the firm's rules of what is due when, and its jobs."""

from __future__ import annotations

from django.db import models

from people.models import Crew, Person


class DueRule(models.Model):
    """A rule the firm set, as the core's `DueRule`; for every instrument, some kinds, one model or one climate."""

    check_name = models.CharField(max_length=40)
    kinds = models.JSONField(default=list)
    model = models.CharField(max_length=120, default="", blank=True)
    climate = models.CharField(max_length=10, default="", blank=True)
    every_days = models.PositiveIntegerField(null=True)
    after = models.JSONField(default=list)
    before_large_jobs = models.BooleanField(default=False)
    temperature_step_c = models.FloatField(null=True)
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="due_rules_set")
    at = models.DateTimeField()
    version = models.PositiveIntegerField(default=0)

    def __str__(self) -> str:
        return self.check_name


class Job(models.Model):
    """A job of a crew, or of all: when it begins and ends, and whether it is a large one."""

    name = models.CharField(max_length=120)
    crew = models.ForeignKey(Crew, on_delete=models.PROTECT, null=True, blank=True, related_name="jobs")
    starts_on = models.DateField()
    ends_on = models.DateField()
    large = models.BooleanField(default=False)
    place = models.CharField(max_length=80, default="", blank=True)
    temperature_c = models.FloatField(null=True)
    needs = models.JSONField(default=dict, help_text="As the core's `JobNeeds`; empty where nothing is stated.")
    version = models.PositiveIntegerField(default=0)

    class Meta:
        indexes = [models.Index(fields=["ends_on"], name="jobs_by_their_end")]

    def __str__(self) -> str:
        return self.name


class CalendarLink(models.Model):
    """A secret address that gives a calendar to whoever has it, until it is revoked. Only the secret's digest is kept."""

    secret_digest = models.CharField(max_length=64, unique=True)
    scope = models.CharField(max_length=12, help_text="fleet, crew or instrument")
    name = models.CharField(max_length=60, default="", blank=True, help_text="Of the crew, or the tag.")
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="calendar_links")
    at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)
    version = models.PositiveIntegerField(default=0)

    def __str__(self) -> str:
        return f"{self.scope} {self.name}".strip()
