"""Of a version only its state may change, whoever asks; and what refers to it may let go of it."""

from django.db import migrations

MAKE = """
CREATE FUNCTION catalogue_version_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF (NEW.id, NEW.entry_id, NEW.number, NEW.content, NEW.content_hash, NEW.note, NEW.made)
        IS DISTINCT FROM (OLD.id, OLD.entry_id, OLD.number, OLD.content, OLD.content_hash, OLD.note, OLD.made) THEN
        RAISE EXCEPTION 'of a version that is made only the state may change (version %)', OLD.id USING ERRCODE = 'restrict_violation';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER catalogue_version_stays BEFORE UPDATE ON catalogue_version FOR EACH ROW EXECUTE FUNCTION catalogue_version_stays();
"""
UNMAKE = "DROP TRIGGER catalogue_version_stays ON catalogue_version; DROP FUNCTION catalogue_version_stays();"


class Migration(migrations.Migration):
    dependencies = [("catalogue", "0002_initial")]
    operations = [migrations.RunSQL(MAKE, UNMAKE)]
