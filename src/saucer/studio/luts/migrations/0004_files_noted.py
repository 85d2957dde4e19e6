"""An entry's files were changed: what is kept in memory of it is read again (catalogue 0016)."""

from django.db import migrations

MAKE = """
CREATE FUNCTION luts_note_files() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO catalogue_entrychange (xid, entry) SELECT DISTINCT pg_current_xact_id()::text::bigint, version.entry_id
    FROM changed JOIN luts_lut lut ON lut.id = changed.lut_id JOIN catalogue_version version ON version.id = lut.version_id;
    RETURN NULL;
END $$;
CREATE TRIGGER luts_lutfile_noted_insert AFTER INSERT ON luts_lutfile REFERENCING NEW TABLE AS changed
FOR EACH STATEMENT EXECUTE FUNCTION luts_note_files();
CREATE TRIGGER luts_lutfile_noted_update AFTER UPDATE ON luts_lutfile REFERENCING NEW TABLE AS changed
FOR EACH STATEMENT EXECUTE FUNCTION luts_note_files();
CREATE TRIGGER luts_lutfile_noted_delete AFTER DELETE ON luts_lutfile REFERENCING OLD TABLE AS changed
FOR EACH STATEMENT EXECUTE FUNCTION luts_note_files();
"""
UNMAKE = """
DROP TRIGGER luts_lutfile_noted_insert ON luts_lutfile;
DROP TRIGGER luts_lutfile_noted_update ON luts_lutfile;
DROP TRIGGER luts_lutfile_noted_delete ON luts_lutfile;
DROP FUNCTION luts_note_files();
"""


class Migration(migrations.Migration):
    dependencies = [("luts", "0003_held_by_the_database"), ("catalogue", "0016_what_was_changed")]

    operations = [migrations.RunSQL(MAKE, UNMAKE)]
