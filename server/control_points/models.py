"""Control points: where they are, as somebody gave them to the server."""

from __future__ import annotations

from django.db import models

from people.models import Person


class Point(models.Model):
    """A control point; coordinates in metres, whatever unit they came in. `bare` is its name without dashes and zeros."""

    name = models.CharField(max_length=40, unique=True)
    bare = models.CharField(max_length=40, unique=True)
    e_m = models.FloatField()
    n_m = models.FloatField()
    h_m = models.FloatField(null=True, blank=True)
    description = models.CharField(max_length=200, default="", blank=True)
    changed_at = models.DateTimeField()
    changed_by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="points")

    def __str__(self) -> str:
        return self.name
