"""Revisions move here from the workshop's app; their table stays as it is."""

import uuid

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True
    dependencies = [("workshop", "0002_revisions_and_restored_parts")]
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="Revision",
                    fields=[
                        ("id", models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        ("name", models.CharField(max_length=60)),
                        ("note", models.CharField(blank=True, max_length=600)),
                        ("document", models.JSONField()),
                        ("created_at", models.DateTimeField(auto_now_add=True)),
                        (
                            "build",
                            models.ForeignKey(
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="revisions",
                                to="workshop.build",
                            ),
                        ),
                    ],
                    options={
                        "db_table": "workshop_revision",
                        "ordering": ["created_at", "id"],
                        "indexes": [
                            models.Index(fields=["build", "created_at"], name="workshop_re_build_i_f6a0f1_idx")
                        ],
                    },
                )
            ],
        )
    ]
