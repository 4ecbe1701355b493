"""What 0002 filled is now required."""

import django.db.models.deletion
from django.db import migrations, models


def names_again(apps, schema_editor):
    for row in apps.get_model("stock", "VanPart").objects.select_related("part"):
        row.name = row.part.name
        row.save(update_fields=["name"])


class Migration(migrations.Migration):
    dependencies = [("stock", "0002_parts_by_key")]

    operations = [
        # On the way back the column is filled before it is required.
        migrations.AlterField("vanpart", "name", models.CharField(max_length=80, null=True)),
        migrations.RunPython(migrations.RunPython.noop, names_again),
        migrations.RemoveField("vanpart", "name"),
        migrations.AlterField("vanpart", "part", models.ForeignKey(
            on_delete=django.db.models.deletion.PROTECT, related_name="on_vans", to="stock.part"
        )),
        migrations.AddConstraint(
            "vanpart", models.UniqueConstraint(fields=["technician", "part"], name="one_row_per_part_and_van")
        ),
    ]
