"""Parts move here from the workshop's app; their table stays as it is."""

import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True
    dependencies = [
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
        ("workshop", "0002_revisions_and_restored_parts"),
    ]
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="Part",
                    fields=[
                        ("id", models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        (
                            "kind",
                            models.CharField(
                                choices=[
                                    ("deck", "deck"),
                                    ("trucks", "trucks"),
                                    ("risers", "risers"),
                                    ("wheels", "wheels"),
                                    ("motors", "motors"),
                                    ("drive", "drive"),
                                    ("pack", "pack"),
                                    ("cell", "cell"),
                                    ("switch", "switch"),
                                    ("fuse", "fuse"),
                                    ("wiring", "wiring"),
                                    ("charger", "charger"),
                                    ("controller", "controller"),
                                    ("remote", "remote"),
                                    ("enclosure", "enclosure"),
                                    ("extra", "extra"),
                                ],
                                max_length=20,
                            ),
                        ),
                        ("name", models.CharField(max_length=120)),
                        ("maker", models.CharField(blank=True, max_length=120)),
                        ("price", models.DecimalField(blank=True, decimal_places=2, max_digits=10, null=True)),
                        ("currency", models.CharField(blank=True, max_length=3)),
                        ("mass_g", models.FloatField(blank=True, null=True)),
                        ("source", models.CharField(blank=True, max_length=400)),
                        ("figures", models.JSONField(default=dict)),
                        ("deleted_at", models.DateTimeField(blank=True, null=True)),
                        (
                            "owner",
                            models.ForeignKey(
                                blank=True,
                                null=True,
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="parts",
                                to=settings.AUTH_USER_MODEL,
                            ),
                        ),
                    ],
                    options={
                        "db_table": "workshop_part",
                        "ordering": ["kind", "name", "id"],
                        "indexes": [models.Index(fields=["kind", "owner"], name="workshop_pa_kind_323fad_idx")],
                        "constraints": [
                            models.UniqueConstraint(
                                condition=models.Q(("deleted_at", None)),
                                fields=("owner", "kind", "name"),
                                name="one_name_a_kind",
                                nulls_distinct=False,
                            )
                        ],
                    },
                )
            ],
        )
    ]
