"""Certificates get kinds with a lasting key; skills can be retired and have a name of their own."""

import django.db.models.deletion
from django.db import migrations, models
from django.db.models.functions import Lower

from foundation.named import key_for


def names_of_their_own(apps, schema_editor):
    seen = set()
    for skill in apps.get_model("people", "Skill").objects.order_by("id"):
        name, number = skill.name, 1
        while name.lower() in seen:
            number += 1
            name = f"{skill.name} ({number})"
        seen.add(name.lower())
        if name != skill.name:
            skill.name = name
            skill.save(update_fields=["name"])


def kinds_of_certificates(apps, schema_editor):
    kind_model, held = apps.get_model("people", "CertificateKind"), apps.get_model("people", "Certificate")
    kinds: dict = {}
    for row in held.objects.order_by("id"):
        name = row.name.strip()
        if name.lower() not in kinds:
            code = key_for(name, {kind.code for kind in kinds.values()})
            kinds[name.lower()] = kind_model.objects.create(code=code, name=name)
        row.kind = kinds[name.lower()]
        row.save(update_fields=["kind"])


class Migration(migrations.Migration):
    dependencies = [("people", "0004_split_shifts")]

    operations = [
        migrations.CreateModel(
            name="CertificateKind",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("code", models.CharField(max_length=40, unique=True)),
                ("name", models.CharField(max_length=80)),
                ("retired", models.BooleanField(default=False)),
            ],
            options={
                "abstract": False,
                "constraints": [models.UniqueConstraint(Lower("name"), name="people_one_certificatekind_of_a_name")],
            },
        ),
        migrations.AddField("certificate", "kind", models.ForeignKey(
            null=True, on_delete=django.db.models.deletion.PROTECT, related_name="held", to="people.certificatekind"
        )),
        migrations.AddField("skill", "retired", models.BooleanField(default=False)),
        migrations.AlterField("skill", "name", models.CharField(max_length=80)),
        migrations.RunPython(names_of_their_own, migrations.RunPython.noop),
        migrations.RunPython(kinds_of_certificates, migrations.RunPython.noop),
    ]
