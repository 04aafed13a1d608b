"""Every row carries a checksum of all that it holds.

Made of the rows as they stand: the store was checked before it is upgraded.
"""

from django.db import migrations, models

from builds.seals import seal_again

KINDS = ("build", "truckrevision", "design", "revision", "operation", "notice")


def seal_all(apps, schema_editor):
    if schema_editor.connection.vendor == "sqlite":
        schema_editor.connection.ensure_connection()
        for kind in KINDS:
            seal_again(schema_editor.connection.connection, f"builds_{kind}")


class Migration(migrations.Migration):
    dependencies = [("builds", "0007_operations")]

    operations = [
        *(migrations.AddField(kind, "seal", models.PositiveBigIntegerField(editable=False, null=True)) for kind in KINDS),
        migrations.RunPython(seal_all, migrations.RunPython.noop, elidable=False),
    ]
