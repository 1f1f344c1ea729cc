"""The trail is append-only, by the database itself: only an erasure, which says so in its own
transaction, changes it; and who goes as a user leaves their entries behind.
"""

from django.db import migrations

FORWARDS = """
CREATE FUNCTION history_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF current_setting('drill_ladder.erasing', true) = 'yes' THEN
    RETURN CASE TG_OP WHEN 'DELETE' THEN OLD ELSE NEW END;
  END IF;
  IF TG_OP = 'UPDATE' AND NEW.actor_id IS NULL
     AND (to_jsonb(NEW) - 'actor_id') = (to_jsonb(OLD) - 'actor_id') THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION 'the history is append-only';
END $$;
CREATE TRIGGER history_append_only BEFORE UPDATE OR DELETE ON history_event
  FOR EACH ROW EXECUTE FUNCTION history_append_only();
CREATE FUNCTION history_no_truncate() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'the history is append-only';
END $$;
CREATE TRIGGER history_no_truncate BEFORE TRUNCATE ON history_event
  FOR EACH STATEMENT EXECUTE FUNCTION history_no_truncate();
"""
BACKWARDS = """
DROP TRIGGER history_no_truncate ON history_event;
DROP FUNCTION history_no_truncate();
DROP TRIGGER history_append_only ON history_event;
DROP FUNCTION history_append_only();
"""


class Migration(migrations.Migration):
    dependencies = [("history", "0001_initial")]

    operations = [
        migrations.RunSQL(FORWARDS, BACKWARDS),
    ]
