"""Texts are kept compressed, most of them against an earlier one of the same document.

Stands by itself: how texts are packed may change later, this does not.
"""

import zlib

from django.db import migrations, models

EVERY = 25
CHUNK = 500


def _pack(text, base):
    packer = zlib.compressobj(9, zdict=base.encode()) if base else zlib.compressobj(9)
    return packer.compress(text.encode()) + packer.flush()


def pack_all(apps, schema_editor):
    for name, owner in (("TruckRevision", "build_id"), ("Revision", "design_id")):
        kind = apps.get_model("builds", name)
        whose, whole, changed = None, None, []
        for row in kind.objects.order_by(owner, "number").iterator(chunk_size=CHUNK):
            if getattr(row, owner) != whose:
                whose, whole = getattr(row, owner), None
            if whole is None or row.number - whole[0] >= EVERY:
                whole = (row.number, row.text)
                row.base, row.packed = None, _pack(row.text, None)
            else:
                row.base, row.packed = whole[0], _pack(row.text, whole[1])
            changed.append(row)
            if len(changed) == CHUNK:
                kind.objects.bulk_update(changed, ["base", "packed"])
                changed = []
        if changed:
            kind.objects.bulk_update(changed, ["base", "packed"])


class Migration(migrations.Migration):
    dependencies = [("builds", "0003_truck")]

    operations = [
        migrations.AlterModelOptions("truckrevision", {"ordering": ("build", "number"), "verbose_name": "truck revision"}),
        *(
            operation
            for kind in ("truckrevision", "revision")
            for operation in (
                migrations.AddField(kind, "base", models.PositiveIntegerField(null=True)),
                migrations.AddField(kind, "packed", models.BinaryField(default=b""), preserve_default=False),
            )
        ),
        migrations.RunPython(pack_all, migrations.RunPython.noop, elidable=False),
        migrations.RemoveField("truckrevision", "text"),
        migrations.RemoveField("revision", "text"),
    ]
