"""Which entries were changed, noted by the database itself, whoever changes them: what is counted in memory is brought up to date by it."""

import django.db.models.functions.datetime
from django.db import migrations, models

MAKE = """
CREATE FUNCTION catalogue_note_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    -- The name of the column that holds the entry comes from the trigger below, never from a row.
    EXECUTE format(
        'INSERT INTO catalogue_entrychange (xid, entry) SELECT DISTINCT pg_current_xact_id()::text::bigint, %I FROM changed', TG_ARGV[0]
    );
    RETURN NULL;
END $$;
"""
UNMAKE = "DROP FUNCTION catalogue_note_change()"

NOTED = (("catalogue_entry", "id"), ("catalogue_entry_tags", "entry_id"), ("catalogue_character", "entry_id"))
# A tag may pass from one entry to another: then both were changed.
SEEN = (("insert", "new"), ("update", "new"), ("update", "old"), ("delete", "old"))
TRIGGERS = [(table, column, event, side, f"{table}_noted_{event}_{side}") for table, column in NOTED for event, side in SEEN]

MAKE_TRIGGERS = "".join(
    f"CREATE TRIGGER {name} AFTER {event} ON {table} REFERENCING {side} TABLE AS changed "
    f"FOR EACH STATEMENT EXECUTE FUNCTION catalogue_note_change('{column}');\n"
    for table, column, event, side, name in TRIGGERS
)
UNMAKE_TRIGGERS = "".join(f"DROP TRIGGER {name} ON {table};\n" for table, _, _, _, name in TRIGGERS)


class Migration(migrations.Migration):
    dependencies = [("catalogue", "0015_remarks_of_guests")]

    operations = [
        migrations.CreateModel(
            name="EntryChange",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("xid", models.BigIntegerField(db_index=True)),
                ("entry", models.BigIntegerField()),
                ("made", models.DateTimeField(db_default=django.db.models.functions.datetime.Now())),
            ],
        ),
        migrations.RunSQL(MAKE + MAKE_TRIGGERS, UNMAKE_TRIGGERS + UNMAKE),
    ]
