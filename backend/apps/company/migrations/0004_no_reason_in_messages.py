"""The reason of a cancellation is the office's: a message to the customer has no word for it any more."""

from django.db import migrations


def take_out(apps, schema_editor):
    Company = apps.get_model("company", "Company")
    for row in Company.objects.all():
        text = row.settings.get("message_cancelled", "")
        if "{reason}" in text:
            row.settings["message_cancelled"] = text.replace("{reason}", "").rstrip(" :,-") or "Cancelled"
            row.save(update_fields=["settings"])


class Migration(migrations.Migration):
    dependencies = [("company", "0003_holidays")]

    operations = [migrations.RunPython(take_out, migrations.RunPython.noop)]
