"""The rule about locks, each part broken once on purpose."""

import pytest
from django.contrib.postgres.operations import AddConstraintNotValid, AddIndexConcurrently
from django.db import migrations, models

from scripts.lint_migrations import found, problems

INDEX = models.Index(fields=["on"], name="by_day")
CHECK = models.CheckConstraint(condition=models.Q(form__gte=0), name="form_from_zero")


class Made:
    """A migration of some operations."""

    def __init__(self, *operations):
        self.operations = operations


@pytest.mark.parametrize(
    "operation",
    [
        migrations.AddIndex("session", INDEX),
        migrations.AddConstraint("setrow", CHECK),
        migrations.AlterField("event", "verb", models.TextField()),
        migrations.AddField("stay", "by", models.ForeignKey("people.User", models.CASCADE)),
        migrations.AddField("trial", "code", models.CharField(max_length=9, unique=True)),
    ],
)
def test_what_locks_a_long_table_is_told(operation):
    assert len(list(problems(Made(operation)))) >= 1


@pytest.mark.parametrize(
    "operation",
    [
        AddIndexConcurrently("session", INDEX),
        AddConstraintNotValid("setrow", CHECK),
        migrations.AddIndex("squad", INDEX),
        migrations.AddField("session", "colour", models.CharField(max_length=9, default="")),
    ],
)
def test_what_does_not_is_left_alone(operation):
    assert list(problems(Made(operation))) == []


def test_a_table_that_is_made_there_is_nobodys_yet():
    made = migrations.CreateModel("session", [])
    assert list(problems(Made(made, migrations.AddIndex("session", INDEX)))) == []


def test_our_own_migrations_keep_to_it():
    assert found() == []
