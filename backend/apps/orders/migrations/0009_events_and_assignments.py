import uuid

import django.db.models.deletion
from django.db import migrations, models

# Who goes is the visit's technician and mates; a row for each of them follows, whoever writes. When somebody else
# comes to lead, whoever led before gives that up first: only one leads at any moment.
TRIGGER = """
CREATE FUNCTION orders_visit_assigned() RETURNS trigger AS $$
BEGIN
    IF TG_OP = 'UPDATE' AND NEW.technician_id IS NOT DISTINCT FROM OLD.technician_id AND NEW.mates = OLD.mates THEN
        RETURN NULL;
    END IF;
    DELETE FROM orders_assignment
        WHERE visit_id = NEW.id
        AND (NEW.technician_id IS NULL OR technician_id <> NEW.technician_id AND NOT technician_id = ANY(NEW.mates));
    IF NEW.technician_id IS NULL THEN
        RETURN NULL;
    END IF;
    UPDATE orders_assignment SET leads = false
        WHERE visit_id = NEW.id AND leads AND technician_id <> NEW.technician_id;
    INSERT INTO orders_assignment (visit_id, technician_id, leads)
        SELECT DISTINCT NEW.id, person, person = NEW.technician_id
        FROM unnest(array_prepend(NEW.technician_id, NEW.mates)) AS person
    ON CONFLICT (visit_id, technician_id) DO UPDATE SET leads = EXCLUDED.leads;
    RETURN NULL;
END $$ LANGUAGE plpgsql;

CREATE TRIGGER visit_assigned AFTER INSERT OR UPDATE OF technician_id, mates ON orders_visit
    FOR EACH ROW EXECUTE FUNCTION orders_visit_assigned();
"""
AWAY = "DROP TRIGGER visit_assigned ON orders_visit; DROP FUNCTION orders_visit_assigned();"

# What is known of those who went before: whoever leads did what the visit says.
FILL = """
INSERT INTO orders_assignment
    (visit_id, technician_id, leads, accepted_at, departed_at, arrived_at, finished_at)
SELECT DISTINCT ON (visit.id, person) visit.id, person, person = visit.technician_id,
    CASE WHEN person = visit.technician_id THEN (
        SELECT max(at.happened_at) FROM orders_visitevent AS at
        WHERE at.visit_id = visit.id AND at.step = 'accept' AND visit.state NOT IN ('placed', 'sent')
    ) END,
    CASE WHEN person = visit.technician_id THEN visit.departed_at END,
    CASE WHEN person = visit.technician_id THEN visit.arrived_at END,
    CASE WHEN person = visit.technician_id THEN visit.finished_at END
FROM orders_visit AS visit, unnest(array_prepend(visit.technician_id, visit.mates)) AS person
WHERE visit.technician_id IS NOT NULL;
"""


class Migration(migrations.Migration):
    dependencies = [
        ('orders', '0008_learned_lengths'),
        ('people', '0003_calendar_links'),
    ]

    operations = [
        migrations.RenameModel('VisitStamp', 'VisitEvent'),
        migrations.RenameField('VisitEvent', 'at', 'happened_at'),
        migrations.AlterField(
            'VisitEvent', 'visit',
            models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='events', to='orders.visit'),
        ),
        migrations.AddField('VisitEvent', 'key', models.UUIDField(null=True)),
        migrations.AddField('VisitEvent', 'recorded_at', models.DateTimeField(null=True)),
        migrations.AddField('VisitEvent', 'actor_id', models.BigIntegerField(null=True)),
        migrations.AddField('VisitEvent', 'accuracy_metres', models.FloatField(null=True)),
        migrations.AddField('VisitEvent', 'before', models.JSONField(default=dict)),
        migrations.AddField('VisitEvent', 'after', models.JSONField(default=dict)),
        migrations.AddField(
            'VisitEvent', 'technician',
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='people.technician',
            ),
        ),
        migrations.RunSQL(
            """
            UPDATE orders_visitevent SET key = gen_random_uuid(), recorded_at = happened_at;
            UPDATE orders_visitevent AS event SET technician_id = visit.technician_id
                FROM orders_visit AS visit WHERE visit.id = event.visit_id AND event.step NOT IN ('place', 'unplace');
            """,
            migrations.RunSQL.noop,
        ),
        migrations.RunSQL('SET CONSTRAINTS ALL IMMEDIATE', migrations.RunSQL.noop),
        migrations.AlterField('VisitEvent', 'key', models.UUIDField(default=uuid.uuid4, unique=True)),
        migrations.AlterField('VisitEvent', 'recorded_at', models.DateTimeField()),
        migrations.AddIndex('VisitEvent', models.Index(fields=['happened_at'], name='event_happened')),
        migrations.CreateModel(
            name='Assignment',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('leads', models.BooleanField()),
                ('accepted_at', models.DateTimeField(null=True)),
                ('departed_at', models.DateTimeField(null=True)),
                ('arrived_at', models.DateTimeField(null=True)),
                ('finished_at', models.DateTimeField(null=True)),
                ('technician', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='assignments', to='people.technician')),
                ('visit', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='assignments', to='orders.visit')),
            ],
            options={
                'constraints': [
                    models.UniqueConstraint(fields=('visit', 'technician'), name='assigned_once'),
                    models.UniqueConstraint(condition=models.Q(('leads', True)), fields=('visit',), name='one_leads'),
                ],
            },
        ),
        migrations.RunSQL(TRIGGER, AWAY),
        migrations.RunSQL(FILL, migrations.RunSQL.noop),
    ]
