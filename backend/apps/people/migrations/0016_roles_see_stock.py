"""Roles a company put together before there was stock go on seeing and counting vans as they did."""

from django.db import migrations

_LED_TO = {"see_board": ["see_stock"], "plan": ["see_stock", "move_stock"]}


def see_stock(apps, schema_editor):
    for role in apps.get_model("people", "OwnRole").objects.all():
        more = [new for old, news in _LED_TO.items() if old in role.actions for new in news]
        role.actions = list(dict.fromkeys([*role.actions, *more]))
        role.save(update_fields=["actions"])


def without(apps, schema_editor):
    for role in apps.get_model("people", "OwnRole").objects.all():
        role.actions = [action for action in role.actions if action not in ("see_stock", "move_stock", "order_parts")]
        role.save(update_fields=["actions"])


class Migration(migrations.Migration):
    dependencies = [("people", "0015_certificate_files")]

    operations = [migrations.RunPython(see_stock, without)]
