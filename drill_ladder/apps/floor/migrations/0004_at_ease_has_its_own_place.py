"""What players said in the hall about being at ease moves to where the card keeps it too."""

from django.db import migrations

MOVE = """
INSERT INTO practice_felt (club_id, player_id, stay_id, "on", level)
SELECT DISTINCT ON (told.player_id, told."on")
    told.club_id, told.player_id, NULL, told."on", (told.value->'numbers'->>'level')::smallint
FROM floor_floortap told
WHERE told.act = 'comfort' AND NOT EXISTS (
    SELECT 1 FROM floor_floortap undo
    WHERE undo.act = 'undo' AND undo.player_id = told.player_id
        AND undo.value->>'of' = told.uid::text
)
ORDER BY told.player_id, told."on", told.id DESC
ON CONFLICT DO NOTHING
"""


class Migration(migrations.Migration):
    dependencies = [("floor", "0003_groups_by_id"), ("practice", "0010_at_ease")]
    operations = [migrations.RunSQL(MOVE, migrations.RunSQL.noop)]
