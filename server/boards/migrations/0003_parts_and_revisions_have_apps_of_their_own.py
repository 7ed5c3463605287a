"""The library's parts and the revisions live in apps of their own; nothing in the database moves."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("workshop", "0002_revisions_and_restored_parts"),
        ("library", "0001_initial"),
        ("revisions", "0001_initial"),
    ]
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[migrations.DeleteModel("Revision"), migrations.DeleteModel("Part")]
        )
    ]
