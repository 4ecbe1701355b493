"""Customers, orders, requests and saved views hold tags by key; saved views hold areas by key as well.

Every tag that somebody has used, or that stands in the company's setting, becomes a row, so nothing is lost.
"""

from django.db import migrations

from foundation.named import key_for

_USED = """
    SELECT DISTINCT unnest(tags) FROM orders_workorder UNION SELECT DISTINCT unnest(tags) FROM customers_customer
    UNION SELECT DISTINCT jsonb_array_elements_text(details->'tags') FROM intake_request
    WHERE jsonb_typeof(details->'tags') = 'array'
"""
_ARRAYS = ("orders_workorder", "customers_customer")


def by_key(apps, schema_editor):
    company = apps.get_model("company", "Company").objects.first()
    set_up = ("key account", "warranty", "complaint", "out of hours")
    if company is not None:
        set_up = company.settings.pop("tags", set_up)
        company.save(update_fields=["settings"])
    with schema_editor.connection.cursor() as cursor:
        cursor.execute(_USED)
        used = [name for (name,) in cursor.fetchall()]
        keys = _keys(apps.get_model("company", "Tag"), [*set_up, *used] if company is not None else used)
        for table in _ARRAYS:
            _hold_keys(cursor, table, keys)
    for request in apps.get_model("intake", "Request").objects.filter(details__has_key="tags").iterator():
        request.details["tags"] = _each(request.details["tags"], keys)
        request.save(update_fields=["details"])
    areas = dict(apps.get_model("company", "Area").objects.filter(removed_at=None).values_list("name", "id"))
    for view in apps.get_model("orders", "SavedView").objects.all():
        view.query = _view_by_key(view.page, view.query, keys, areas)
        view.save(update_fields=["query"])


def by_name(apps, schema_editor):
    """Back again: tags by their names, and the company's setting."""
    tags = dict(apps.get_model("company", "Tag").objects.order_by("id").values_list("code", "name"))
    for company in apps.get_model("company", "Company").objects.all():
        company.settings["tags"] = list(tags.values())
        company.save(update_fields=["settings"])
    with schema_editor.connection.cursor() as cursor:
        for table in _ARRAYS:
            _hold_keys(cursor, table, tags)
    for request in apps.get_model("intake", "Request").objects.filter(details__has_key="tags").iterator():
        request.details["tags"] = _each(request.details["tags"], tags)
        request.save(update_fields=["details"])
    areas = dict(apps.get_model("company", "Area").objects.values_list("id", "name"))
    for view in apps.get_model("orders", "SavedView").objects.all():
        view.query = _view_by_key("", view.query | {"areas": _held_areas(view.query)}, tags, areas)
        view.save(update_fields=["query"])


def _held_areas(query):
    return query.get("area_ids") or query.get("areas") or []


def _keys(model, names):
    """The key of every name in any spelling; of those that are not known yet a row is made."""
    found = {row.name.lower(): row.code for row in model.objects.all()}
    for name in names:
        plain = " ".join(name.split())
        if plain and plain.lower() not in found:
            row = model.objects.create(code=key_for(plain, found.values()), name=plain)
            found[plain.lower()] = row.code
    return {name: found[" ".join(name.split()).lower()] for name in names if name.strip()}


def _each(names, keys):
    return list(dict.fromkeys(keys[name] for name in names or () if name in keys))


def _hold_keys(cursor, table, keys):
    """Every distinct list once: a million orders have a few dozen."""
    cursor.execute(f"SELECT DISTINCT tags FROM {table} WHERE tags <> '{{}}'")
    lists = [(was, _each(was, keys)) for (was,) in cursor.fetchall()]
    # In one go: what one list becomes may be what another one was.
    cursor.execute("CREATE TEMP TABLE tag_lists (was varchar[], becomes varchar[]) ON COMMIT DROP")
    cursor.executemany("INSERT INTO tag_lists VALUES (%s, %s)", lists)
    cursor.execute(f"UPDATE {table} SET tags = becomes FROM tag_lists WHERE tags = was")
    cursor.execute("DROP TABLE tag_lists")


def _view_by_key(page, query, keys, areas):
    found = {name: value for name, value in query.items() if name not in ("areas", "area_ids", "tags", "tag")}
    if tags := _each(query.get("tags"), keys):
        found["tags"] = tags
    if query.get("tag") in keys:
        found["tag"] = keys[query["tag"]]
    if ids := [areas[name] for name in query.get("areas") or () if name in areas]:
        found["area_ids" if page == "backlog" else "areas"] = ids
    return found


class Migration(migrations.Migration):
    dependencies = [
        ("orders", "0014_same_technician"),
        ("company", "0006_tags"),
        ("customers", "0007_required_technicians"),
        ("intake", "0005_request_details"),
    ]

    operations = [migrations.RunPython(by_key, by_name)]
