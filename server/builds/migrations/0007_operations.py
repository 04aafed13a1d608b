from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("builds", "0006_bin")]

    operations = [
        migrations.AddField("build", "number", models.PositiveIntegerField(default=1)),
        migrations.CreateModel(
            name="Operation",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("number", models.CharField(max_length=64, unique=True)),
                ("asked", models.CharField(max_length=200)),
                ("made", models.CharField(max_length=20)),
                ("made_id", models.BigIntegerField(null=True)),
                ("created_at", models.DateTimeField(auto_now_add=True, db_index=True)),
            ],
        ),
    ]
