"""What 0005 filled is now required: PostgreSQL changes no table that has changed rows in the same transaction."""

import django.db.models.deletion
from django.db import migrations, models
from django.db.models.functions import Lower


def names_again(apps, schema_editor):
    for row in apps.get_model("people", "Certificate").objects.select_related("kind"):
        row.name = row.kind.name
        row.save(update_fields=["name"])


class Migration(migrations.Migration):
    dependencies = [("people", "0005_names_by_key")]

    operations = [
        # On the way back the column is filled before it is required.
        migrations.AlterField("certificate", "name", models.CharField(max_length=80, null=True)),
        migrations.RunPython(migrations.RunPython.noop, names_again),
        migrations.RemoveField("certificate", "name"),
        migrations.AlterField("certificate", "kind", models.ForeignKey(
            on_delete=django.db.models.deletion.PROTECT, related_name="held", to="people.certificatekind"
        )),
        migrations.AddConstraint(
            "skill", models.UniqueConstraint(Lower("name"), name="people_one_skill_of_a_name")
        ),
    ]
