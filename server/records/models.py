"""Records: checks, events and amendments, one chain an instrument, added to and never changed."""

from __future__ import annotations

import uuid
from typing import Any, ClassVar, NoReturn

from django.db import models

from fleet.models import Instrument
from people.models import Person


class AppendOnlyError(TypeError):
    """Somebody tried to change or remove a record."""


class RecordSet(models.QuerySet["Record"]):
    """Records can be read and added; the rest is refused in words."""

    def update(self, **kwargs: Any) -> NoReturn:
        raise AppendOnlyError("records are never changed; amend them")

    def delete(self) -> NoReturn:
        raise AppendOnlyError("records are never removed; amend them")

    def standing(self) -> RecordSet:
        """Records that are not struck by an amendment."""
        return self.filter(amendments__isnull=True)


class Record(models.Model):
    """One entry in an instrument's chain. `document` and `result` are canonical text; `digest` seals all of it."""

    class Category(models.TextChoices):
        CHECK = "check"
        EVENT = "event"
        AMENDMENT = "amendment"
        SET_UP = "set-up"
        ORIENTATION = "orientation"
        ROUND = "round"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    instrument = models.ForeignKey(Instrument, on_delete=models.PROTECT, related_name="records")
    category = models.CharField(max_length=12, choices=Category)
    kind = models.CharField(max_length=40)
    stage = models.CharField(max_length=10, default="", blank=True)
    pair = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="as_left")
    amends = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="amendments")
    why = models.CharField(max_length=500, default="", blank=True)
    observed_at = models.CharField(max_length=40, help_text="ISO 8601 with the device's own offset")
    observed_at_utc = models.DateTimeField()
    received_at = models.DateTimeField()
    observed_by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="observed")
    entered_by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="entered")
    entry = models.CharField(max_length=10)
    document = models.TextField()
    result = models.TextField()
    core_version = models.CharField(max_length=20)
    device = models.TextField(default="", help_text="What the device calculated, and its time; empty where it did not.")
    summary = models.TextField(default="{}", help_text="What lists and series show of it: follows from the result.")
    grade = models.CharField(max_length=10, default="", blank=True, help_text="Of its result; follows from it.")
    search = models.TextField(
        default="", help_text="The words it is found by, a space before each; follows from the rest."
    )
    arrival = models.BigIntegerField(unique=True, help_text="In which order records came, whatever the clocks said.")
    sequence = models.PositiveIntegerField()
    previous = models.CharField(max_length=64)
    digest = models.CharField(max_length=64)
    sent_digest = models.CharField(
        max_length=64, help_text="Of what the device sent: the same again is no second save."
    )

    objects: ClassVar[models.Manager[Record]] = RecordSet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["instrument", "sequence"], name="one_chain_an_instrument")]
        indexes = [
            models.Index(fields=["instrument", "category", "observed_at_utc"], name="records_of_an_instrument"),
            models.Index(fields=["instrument", "kind", "observed_at_utc"], name="records_of_a_kind"),
            models.Index(fields=["instrument", "arrival"], name="an_instruments_arrivals"),
            models.Index(fields=["category", "arrival"], name="arrivals_of_a_category"),
            models.Index(fields=["kind", "arrival"], name="arrivals_of_a_kind"),
            models.Index(fields=["grade", "observed_at_utc"], name="records_of_a_grade"),
            models.Index(fields=["observed_at_utc", "arrival"], name="records_by_their_day"),
            models.Index(fields=["entered_by", "arrival"], name="arrivals_by_who_entered"),
            models.Index(fields=["observed_by", "arrival"], name="arrivals_by_who_observed"),
        ]

    def __str__(self) -> str:
        return f"{self.instrument} {self.sequence} {self.kind}"

    def save(self, *args: Any, **kwargs: Any) -> None:
        if not self._state.adding:
            raise AppendOnlyError("records are never changed; amend them")
        super().save(*args, **kwargs)

    def delete(self, *args: Any, **kwargs: Any) -> NoReturn:
        raise AppendOnlyError("records are never removed; amend them")


class KnownTable(models.Model):
    """A table of somebody's own that was read before: its headings, and which column was what. Of the whole firm."""

    kind = models.CharField(max_length=40)
    headings = models.JSONField(help_text="the headings of the file, in small letters, in their order")
    column_map = models.JSONField(help_text="which column is what, in which unit")
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="known_tables")
    at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.kind}: {', '.join(self.headings)}"
