"""What is kept: builds, the truck of each, their designs; truck and designs as immutable, numbered revisions."""

from collections.abc import Collection
from typing import Any, ClassVar, Self, TypeVar

from django.core.exceptions import ObjectDoesNotExist
from django.db import DatabaseError, connection, models, transaction
from django.utils.functional import cached_property

from builds import seals
from builds.packing import Damaged, base_of, pack, unpack


class Sealed(models.Model):
    """A row with a checksum of all that it holds. One that is no longer what was written is never written over."""

    seal = models.PositiveBigIntegerField(null=True, editable=False)
    is_sound = True

    class Meta:
        abstract = True

    @classmethod
    def from_db(cls, db: str | None, field_names: Collection[str], values: Collection[Any], **how: Any) -> Self:
        made = super().from_db(db, field_names, values, **how)
        made.is_sound = bool(made.get_deferred_fields()) or made._is_as_sealed()
        return made

    def save(self, *args: Any, **kwargs: Any) -> None:
        """
        Raises:
            Damaged: where what is stored is no longer what was written.
        """
        if not self.is_sound:
            raise Damaged(self.in_words)
        with transaction.atomic():
            super().save(*args, **kwargs)  # gives the id and the dates that are sealed with the rest
            self.seal = self._sealed()
            type(self)._base_manager.filter(pk=self.pk).update(seal=self.seal)

    @classmethod
    def dated(cls, pk: int, **dates: Any) -> None:
        """Give a row the dates that it had elsewhere, in place of those of its being made here."""
        rows = cls._base_manager.filter(pk=pk)
        rows.update(**dates)
        rows.update(seal=rows.get()._sealed())

    @property
    def in_words(self) -> str:
        return f"{self._meta.verbose_name} {self.pk}"

    def _sealed(self) -> int:
        fields = self._meta.concrete_fields
        return seals.seal_of({
            str(field.column): field.get_db_prep_save(getattr(self, field.attname), connection) for field in fields
        })  # fmt: skip

    def _is_as_sealed(self) -> bool:
        try:
            return self.seal == self._sealed()
        except (TypeError, ValueError):
            return False  # not even of its kind


_Row = TypeVar("_Row", bound=Sealed)


def fetched(query: models.QuerySet[_Row]) -> tuple[list[_Row], list[int]]:
    """The rows of a query, those too that are not as they were written; and the ids of those that can't be fetched."""
    try:
        return list(query), []
    except (ValueError, DatabaseError):  # what is no date, or no text, takes all that come with it along
        rows, lost = [], []
        for one in query.values_list("pk", flat=True):
            try:
                rows.append(query.model._base_manager.get(pk=one))
            except (ValueError, DatabaseError):
                lost.append(one)
        return rows, lost


class Build(Sealed):
    """One vehicle. `number` counts its renames, its ways into the bin and out of it: what each is made against."""

    number = models.PositiveIntegerField(default=1)
    name = models.CharField(max_length=200)
    notes = models.TextField(blank=True)
    created_at = models.DateTimeField(auto_now_add=True)
    deleted_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ("id",)

    def __str__(self) -> str:
        return self.name

    def truck(self) -> "TruckRevision | None":
        """The truck as it stands now; None before the first design says anything of it."""
        return self.trucks.readable().order_by("-number").first()


class StoredQuerySet(models.QuerySet[Any]):
    def readable(self) -> Self:
        """With what each is kept against at hand, so that no text needs a query of its own."""
        owner = self.model.OWNER
        bases = self.model.objects.filter(**{owner: models.OuterRef(owner)}, number=models.OuterRef("base"))
        return self.annotate(base_packed=models.Subquery(bases.values("packed")[:1]))


class Stored(Sealed):
    """A document as it was accepted once: the text of its file, packed. Written once, never changed, never removed."""

    OWNER: ClassVar[str]
    """The field that says whose revision it is."""

    number = models.PositiveIntegerField()
    packed = models.BinaryField()
    base = models.PositiveIntegerField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    objects = StoredQuerySet.as_manager()

    class Meta:
        abstract = True

    @classmethod
    def write(cls, text: str, number: int, **fields: Any) -> Self:
        """Keep a text as the revision of that number."""
        made = cls(number=number, base=base_of(number), **fields)
        try:
            against = made._base_text()
        except (Damaged, ObjectDoesNotExist):
            made.base = against = None  # what comes after damage is kept whole
        made.packed = pack(text, against)
        made.save()
        return made

    @cached_property
    def text(self) -> str:
        """
        Raises:
            Damaged: where it is no longer what was written.
        """
        try:
            if self.is_sound:
                return unpack(bytes(self.packed), self._base_text())
        except (Damaged, ObjectDoesNotExist):
            pass
        raise Damaged(self.in_words)

    @property
    def in_words(self) -> str:
        return f"{self._meta.verbose_name} {self.number}"

    def _base_text(self) -> str | None:
        if self.base is None:
            return None
        packed = self.__dict__.get("base_packed")
        if packed is None:
            whose = {self.OWNER: getattr(self, self.OWNER)}
            packed = type(self).objects.values_list("packed", flat=True).get(number=self.base, **whose)
        return unpack(bytes(packed))

    def save(self, *args: Any, **kwargs: Any) -> None:
        if self.pk is not None:
            raise TypeError("a revision is written once")
        super().save(*args, **kwargs)

    def delete(self, *args: Any, **kwargs: Any) -> tuple[int, dict[str, int]]:
        raise TypeError("a revision is never removed")


class TruckRevision(Stored):
    """What both axles of a build share: a truck file."""

    OWNER = "build"

    build = models.ForeignKey(Build, on_delete=models.PROTECT, related_name="trucks")

    class Meta:
        verbose_name = "truck revision"
        ordering = ("build", "number")
        constraints = (models.UniqueConstraint(fields=("build", "number"), name="one_truck_of_each_number"),)

    def __str__(self) -> str:
        return f"{self.build}, truck revision {self.number}"


class Design(Sealed):
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
        newest: Revision = self.revisions.readable().latest("number")
        return newest


class Revision(Stored):
    """A design bare of the truck's figures, and the number of the truck revision that it was stored on."""

    OWNER = "design"

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
        stood_on: TruckRevision = TruckRevision.objects.readable().get(build_id=self.design.build_id, number=self.truck)
        return stood_on


class Operation(Sealed):
    """Something that was done and changed what is kept, by the number that whoever asked for it gave it."""

    number = models.CharField(max_length=64, unique=True)
    asked = models.CharField(max_length=200)
    made = models.CharField(max_length=20)
    made_id = models.BigIntegerField(null=True)
    created_at = models.DateTimeField(auto_now_add=True, db_index=True)

    def __str__(self) -> str:
        return self.number


class Notice(Sealed):
    """What the shop has to hear of its store, until someone has read it and puts it away."""

    words = models.TextField()
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("id",)

    def __str__(self) -> str:
        return self.words
