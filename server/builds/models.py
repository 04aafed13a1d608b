"""What is kept: builds, the truck of each, their designs; truck and designs as immutable, numbered revisions."""

from typing import Any

from django.db import models


class Build(models.Model):
    """One vehicle."""

    name = models.CharField(max_length=200)
    notes = models.TextField(blank=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("id",)

    def __str__(self) -> str:
        return self.name

    def truck(self) -> "TruckRevision | None":
        """The truck as it stands now; None before the first design says anything of it."""
        return self.trucks.order_by("-number").first()


class Stored(models.Model):
    """A document as it was accepted once: the text of its file. Written once, never changed, never removed."""

    number = models.PositiveIntegerField()
    text = models.TextField()
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        abstract = True

    def save(self, *args: Any, **kwargs: Any) -> None:
        if self.pk is not None:
            raise TypeError("a revision is written once")
        super().save(*args, **kwargs)

    def delete(self, *args: Any, **kwargs: Any) -> tuple[int, dict[str, int]]:
        raise TypeError("a revision is never removed")


class TruckRevision(Stored):
    """What both axles of a build share: a truck file."""

    build = models.ForeignKey(Build, on_delete=models.PROTECT, related_name="trucks")

    class Meta:
        ordering = ("build", "number")
        constraints = (models.UniqueConstraint(fields=("build", "number"), name="one_truck_of_each_number"),)

    def __str__(self) -> str:
        return f"{self.build}, truck revision {self.number}"


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


class Revision(Stored):
    """A design bare of the truck's figures, and the number of the truck revision that it was stored on."""

    design = models.ForeignKey(Design, on_delete=models.PROTECT, related_name="revisions")
    name = models.CharField(max_length=200)
    truck = models.PositiveIntegerField()

    class Meta:
        ordering = ("design", "number")
        constraints = (models.UniqueConstraint(fields=("design", "number"), name="one_of_each_number"),)

    def __str__(self) -> str:
        return f"{self.name}, revision {self.number}"

    def stood_on(self) -> TruckRevision:
        """The truck revision that it was stored on."""
        return TruckRevision.objects.get(build_id=self.design.build_id, number=self.truck)
