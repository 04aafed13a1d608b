"""The truck becomes a document of its own: every stored design is split from it, and says which revision it stood on.

Stands by itself: what the core makes of a truck may change later, this does not.
"""

import json

import django.db.models.deletion
from django.db import migrations, models

TIRES = ("tire_diameter", "tire_radius_loaded", "tire_width", "track")
OF_VEHICLE = ("wheelbase", "mass", "front_share", "cg_height", "brake_share")
WHOLE = ("rails", "use", "bands")


def _share(share, end):
    return share if end == "front" else round(1.0 - share, 9)


def _taken(document):
    """The truck's figures, taken out of a design document."""
    axle, vehicle = document["axle"], document["vehicle"]
    figures = {name: axle.pop(name) for name in TIRES} | {name: vehicle.pop(name) for name in OF_VEHICLE}
    return figures | {name: document.pop(name, None) for name in WHOLE}


def _onto(truck, figures, end):
    """The truck with one design's figures; what the design says nothing of stays as it is."""
    truck = json.loads(json.dumps(truck))
    truck["vehicle"] = {name: figures[name] for name in ("mass", "front_share", "cg_height")}
    truck["vehicle"]["brake_front"] = _share(figures["brake_share"], end)
    for name in TIRES:
        truck["axles"][end][name] = figures[name]
    truck["axles"]["front"]["station"] = round(truck["axles"]["rear"]["station"] + figures["wheelbase"], 9)
    truck["use"] = figures["use"] or "trail"
    if figures["rails"] is not None:
        truck["rails"] = figures["rails"]
    truck["bands"] = figures["bands"] or {}
    return truck


def _first(name, figures):
    axle = {tire: figures[tire] for tire in TIRES}
    axles = {"front": {"station": figures["wheelbase"], **axle}, "rear": {"station": 0.0, **axle}}
    return {"format": "oak-lever-truck", "version": 1, "name": name, "axles": axles}


def split(apps, schema_editor):
    build_kind, revision_kind, truck_kind = (
        apps.get_model("builds", name) for name in ("Build", "Revision", "TruckRevision")
    )
    for build in build_kind.objects.all():
        truck, number = None, 0

        def keep(next_truck, at):
            nonlocal truck, number
            if next_truck == truck:
                return
            truck, number = next_truck, number + 1
            text = json.dumps(truck, indent=2, ensure_ascii=False) + "\n"
            kept = truck_kind.objects.create(build=build, number=number, text=text)
            truck_kind.objects.filter(pk=kept.pk).update(created_at=at)

        revisions = revision_kind.objects.filter(design__build=build).order_by("created_at", "id")
        for revision in revisions.iterator():
            document = json.loads(revision.text)
            end, figures = document["axle"]["end"], _taken(document)
            keep(_onto(truck or _first(build.name, figures), figures, end), revision.created_at)
            text = json.dumps(document, indent=2, ensure_ascii=False) + "\n"
            revision_kind.objects.filter(pk=revision.pk).update(truck=number, text=text)
        if truck is not None and build.bands:
            keep({**truck, "bands": {**truck["bands"], **build.bands}}, build.created_at)


class Migration(migrations.Migration):
    dependencies = [("builds", "0002_bands")]

    operations = [
        migrations.CreateModel(
            name="TruckRevision",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("number", models.PositiveIntegerField()),
                ("text", models.TextField()),
                ("created_at", models.DateTimeField(auto_now_add=True)),
                (
                    "build",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="trucks", to="builds.build"
                    ),
                ),
            ],
            options={
                "ordering": ("build", "number"),
                "constraints": [
                    models.UniqueConstraint(fields=("build", "number"), name="one_truck_of_each_number")
                ],
            },
        ),
        migrations.AddField("Revision", "truck", models.PositiveIntegerField(default=0), preserve_default=False),
        migrations.RunPython(split, migrations.RunPython.noop, elidable=False),
        migrations.RemoveField("Build", "bands"),
    ]
