"""Job types, requests and visits hold skills, certificates and parts by key, not by name.

What names nothing that is known becomes a row of its own, so nothing is lost. What could be undone is forgotten: it
speaks of names.
"""

from django.db import migrations

from foundation.named import key_for


def _keys(model, names):
    """The key of each name in any spelling; of those that are not known yet a row is made."""
    found = {row.name.lower(): row.code for row in model.objects.all()}
    codes = set(found.values())
    for name in sorted(names):
        if name.strip().lower() not in found:
            row = model.objects.create(code=key_for(name, codes), name=name.strip()[:80])
            codes.add(row.code)
            found[name.strip().lower()] = row.code
    return {name: found[name.strip().lower()] for name in names}


def _names_in(cursor, sql):
    cursor.execute(sql)
    return {name for (name,) in cursor.fetchall() if name.strip()}


_NEEDS = """
    SELECT DISTINCT jsonb_object_keys(needs) FROM orders_visit
    UNION SELECT DISTINCT jsonb_object_keys(needs) FROM intake_request
    UNION SELECT DISTINCT jsonb_object_keys(needs) FROM catalogue_jobtype
    UNION SELECT DISTINCT jsonb_object_keys(content->'needs') FROM catalogue_jobtypeedition
"""
_PARTS = """
    SELECT DISTINCT jsonb_object_keys(takes) FROM orders_visit
    UNION SELECT DISTINCT jsonb_object_keys(parts) FROM catalogue_jobtype
    UNION SELECT DISTINCT jsonb_object_keys(content->'parts') FROM catalogue_jobtypeedition
"""
_FURTHER = """
    SELECT DISTINCT jsonb_object_keys(visit->'needs') FROM catalogue_jobtype, jsonb_array_elements(visits) AS visit
    WHERE jsonb_typeof(visit->'needs') = 'object'
    UNION SELECT DISTINCT jsonb_object_keys(visit->'needs') FROM catalogue_jobtypeedition,
    jsonb_array_elements(coalesce(content->'visits', '[]')) AS visit WHERE jsonb_typeof(visit->'needs') = 'object'
"""
_PAPERS = """
    SELECT DISTINCT jsonb_array_elements_text(certificates) FROM catalogue_jobtype
    UNION SELECT DISTINCT jsonb_array_elements_text(coalesce(content->'certificates', '[]'))
    FROM catalogue_jobtypeedition
"""


def by_key(apps, schema_editor):
    with schema_editor.connection.cursor() as cursor:
        known = {row.name for row in apps.get_model("people", "Skill").objects.all()}
        needed = _names_in(cursor, _NEEDS) | _names_in(cursor, _FURTHER)
        skills = _keys(apps.get_model("people", "Skill"), known | needed)
        papers = _keys(apps.get_model("people", "CertificateKind"), _names_in(cursor, _PAPERS))
        parts = _keys(apps.get_model("stock", "Part"), _names_in(cursor, _PARTS))
        for table, column, keys in (
            ("orders_visit", "needs", skills), ("intake_request", "needs", skills), ("orders_visit", "takes", parts),
        ):  # fmt: skip
            _rename_keys(cursor, table, column, keys)
    for row in apps.get_model("catalogue", "JobType").objects.all():
        content = _with_keys(_content_of(row), skills, papers, parts)
        for name, value in content.items():
            setattr(row, name, value)
        row.save(update_fields=list(content))
    for row in apps.get_model("catalogue", "JobTypeEdition").objects.all():
        row.content = row.content | _with_keys(row.content, skills, papers, parts)
        row.save(update_fields=["content"])
    # Views that somebody saved filter by skill.
    for view in apps.get_model("orders", "SavedView").objects.all():
        if view.query.get("skill") in skills:
            view.query["skill"] = skills[view.query["skill"]]
            view.save(update_fields=["query"])
    apps.get_model("foundation", "UndoEntry").objects.all().delete()


def _rename_keys(cursor, table, column, keys):
    """Every distinct value once: a million visits have a few dozen."""
    if not keys:
        return
    cursor.execute("CREATE TEMP TABLE known_names (name text PRIMARY KEY, code text NOT NULL) ON COMMIT DROP")
    cursor.executemany("INSERT INTO known_names VALUES (%s, %s)", list(keys.items()))
    cursor.execute(f"""
        UPDATE {table} SET {column} = wanted.value FROM (
            SELECT was.value AS was, jsonb_object_agg(known_names.code, part.value) AS value
            FROM (SELECT DISTINCT {column} AS value FROM {table} WHERE {column} <> '{{}}') AS was,
            jsonb_each(was.value) AS part JOIN known_names ON known_names.name = part.key GROUP BY was.value
        ) AS wanted WHERE {table}.{column} = wanted.was
    """)
    cursor.execute("DROP TABLE known_names")


def _content_of(row):
    return {name: getattr(row, name) for name in ("needs", "certificates", "parts", "visits")}


def _with_keys(content, skills, papers, parts):
    changed = {}
    if content.get("needs"):
        changed["needs"] = _amounts(content["needs"], skills)
    if content.get("certificates"):
        changed["certificates"] = [papers[name] for name in content["certificates"] if name.strip()]
    if content.get("parts"):
        changed["parts"] = _amounts(content["parts"], parts)
    if content.get("visits"):
        changed["visits"] = [
            {**visit, "needs": _amounts(visit["needs"], skills)} if visit.get("needs") else visit
            for visit in content["visits"]
        ]
    return changed


def _amounts(amounts, keys):
    found = {}
    for name, amount in amounts.items():
        if name.strip():
            found[keys[name]] = found.get(keys[name], 0) + amount
    return found


class Migration(migrations.Migration):
    dependencies = [
        ("orders", "0010_origin"),
        ("people", "0006_names_by_key_hold"),
        ("stock", "0003_parts_by_key_hold"),
        ("catalogue", "0004_job_type_certificates"),
        ("intake", "0005_request_details"),
        ("foundation", "0004_undo_entries"),
    ]

    operations = [migrations.RunPython(by_key, migrations.RunPython.noop)]
