"""Open halls are told of what is new by the database itself, whoever wrote it: the highest number
of the new taps of a club, or 0 where somebody was stopped or may go on.
"""

from django.db import migrations

TELL = """
CREATE FUNCTION hall_told() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('hall', club_id || ':' || max(id)) FROM fresh GROUP BY club_id;
  RETURN NULL;
END $$;
CREATE FUNCTION hall_stopped() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('hall', NEW.club_id || ':0');
  RETURN NULL;
END $$;
CREATE TRIGGER hall_told AFTER INSERT ON floor_floortap
  REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION hall_told();
CREATE TRIGGER hall_stopped AFTER INSERT OR UPDATE ON practice_stop
  FOR EACH ROW EXECUTE FUNCTION hall_stopped();
"""
NEVER_MIND = """
DROP TRIGGER hall_told ON floor_floortap;
DROP TRIGGER hall_stopped ON practice_stop;
DROP FUNCTION hall_told();
DROP FUNCTION hall_stopped();
"""


class Migration(migrations.Migration):
    dependencies = [
        ("floor", "0009_routine_as_test"),
        ("practice", "0012_feeds"),
    ]
    operations = [migrations.RunSQL(TELL, NEVER_MIND)]
