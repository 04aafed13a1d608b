"""What is kept: builds, their designs, and each design's immutable, numbered revisions."""

from typing import Any

from django.db import models


class Build(models.Model):
    """One vehicle."""

    name = models.CharField(max_length=200)
    notes = models.TextField(blank=True)
    bands = models.JSONField(default=dict, blank=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("id",)

    def __str__(self) -> str:
        return self.name


class Design(models.Model):
    """One axle's suspension, or an alternative of it. What it is stands in its newest revision."""

    build = models.ForeignKey(Build, on_delete=models.PROTECT, related_name="designs")
    created_at = models.DateTimeField(auto_now_add=True)
    deleted_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ("id",)

    def __str__(self) -> str:
        return f"design {self.pk}"

    def head(self) -> "Revision":
        """The newest revision."""
        return self.revisions.latest("number")


class Revision(models.Model):
    """A design as it was accepted once: the text of its file. Written once, never changed, never removed."""

    design = models.ForeignKey(Design, on_delete=models.PROTECT, related_name="revisions")
    number = models.PositiveIntegerField()
    name = models.CharField(max_length=200)
    text = models.TextField()
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("design", "number")
        constraints = (models.UniqueConstraint(fields=("design", "number"), name="one_of_each_number"),)

    def __str__(self) -> str:
        return f"{self.name}, revision {self.number}"

    def save(self, *args: Any, **kwargs: Any) -> None:
        if self.pk is not None:
            raise TypeError("a revision is written once")
        super().save(*args, **kwargs)

    def delete(self, *args: Any, **kwargs: Any) -> tuple[int, dict[str, int]]:
        raise TypeError("a revision is never removed")
