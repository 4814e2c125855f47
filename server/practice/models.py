"""Lessons somebody worked through."""

from __future__ import annotations

import uuid

from django.db import models

from people.models import Person


class PracticeRun(models.Model):
    """One lesson from beginning to end. `gestures` as the device sent them, `result` as they were judged here."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    person = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="practice_runs")
    lesson = models.CharField(max_length=40)
    seed = models.PositiveIntegerField()
    at = models.DateTimeField(help_text="When it was finished.")
    seconds = models.FloatField()
    passed = models.BooleanField()
    advised = models.BooleanField(default=False, help_text="Whether advice was shown.")
    measure = models.PositiveIntegerField()
    habits = models.JSONField(default=list, help_text="Codes of the habits seen.")
    gestures = models.TextField()
    result = models.TextField()
    sent_digest = models.CharField(max_length=64, help_text="The same again is no second save.")

    class Meta:
        indexes = [models.Index(fields=["person", "at"], name="practice_of_a_person")]

    def __str__(self) -> str:
        return f"{self.person} {self.lesson} {self.seed}"
