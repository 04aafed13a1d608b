from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("builds", "0005_notice")]

    operations = [migrations.AddField("build", "deleted_at", models.DateTimeField(blank=True, null=True))]
