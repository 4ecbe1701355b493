"""Keys, claims and failures of messages; messages that wait; who is to be called."""

import django.db.models.deletion
from django.db import migrations, models

import apps.messages.models


def give_keys(apps, schema_editor):
    Message = apps.get_model("messages", "Message")
    rows = Message.objects.filter(key="").values_list("pk", flat=True)
    for pk in rows.iterator():
        Message.objects.filter(pk=pk).update(key=f"{pk:032d}")
    # What was a failure stood in the reference.
    Message.objects.filter(state="failed").update(failure=models.F("reference"), reference="")


def put_failures_back(apps, schema_editor):
    Message = apps.get_model("messages", "Message")
    for row in Message.objects.filter(state="failed"):
        Message.objects.filter(pk=row.pk).update(reference=row.failure[:80])
    Message.objects.filter(state="sending").update(state="queued")
    Message.objects.filter(state="withdrawn").delete()


class Migration(migrations.Migration):
    dependencies = [("messages", "0002_message_request"), ("orders", "0001_initial")]

    operations = [
        migrations.AddField("message", "version", models.PositiveIntegerField(default=0)),
        migrations.AddField("message", "not_before", models.DateTimeField(null=True)),
        migrations.AddField("message", "key", models.CharField(default="", max_length=32)),
        migrations.AddField("message", "attempts", models.PositiveSmallIntegerField(default=0)),
        migrations.AddField("message", "claimed_at", models.DateTimeField(null=True)),
        migrations.AddField("message", "failure", models.CharField(blank=True, default="", max_length=200)),
        migrations.AlterField("message", "failure", models.CharField(blank=True, max_length=200)),
        migrations.AlterField(
            "message",
            "state",
            models.CharField(
                choices=[(n, n) for n in ("queued", "sending", "delivered", "failed", "withdrawn")],
                default="queued",
                max_length=10,
            ),
        ),
        migrations.RunPython(give_keys, put_failures_back),
        # What PostgreSQL still has to check of the rows just changed would keep the index from being made.
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE", "SET CONSTRAINTS ALL IMMEDIATE"),
        migrations.AlterField(
            "message", "key", models.CharField(default=apps.messages.models.new_key, max_length=32, unique=True)
        ),
        migrations.AddIndex(
            "message",
            models.Index(
                fields=["written_at"], name="message_under_way", condition=models.Q(state__in=["queued", "sending"])
            ),
        ),
        migrations.AddIndex(
            "message", models.Index(fields=["-id"], name="message_failed", condition=models.Q(state="failed"))
        ),
        migrations.CreateModel(
            name="Call",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("version", models.PositiveIntegerField(default=0)),
                ("name", models.CharField(max_length=160)),
                ("phone", models.CharField(blank=True, max_length=40)),
                ("why", models.CharField(max_length=300)),
                ("made_at", models.DateTimeField()),
                ("done_at", models.DateTimeField(null=True)),
                ("done_by", models.CharField(blank=True, max_length=120)),
                (
                    "visit",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="calls", to="orders.visit"
                    ),
                ),
            ],
            options={
                "indexes": [
                    models.Index(fields=["made_at"], name="call_open", condition=models.Q(done_at__isnull=True))
                ]
            },
        ),
    ]
