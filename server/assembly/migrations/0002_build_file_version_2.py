from django.db import migrations
from django.db.models import TextField
from django.db.models.functions import Cast

from boardmath.buildfile.migration import upgrade_path


def upgrade_paths(apps, schema_editor):
    """The figures that a step stood on, and what an idea changes, under today's names of the build file."""
    LogEntry = apps.get_model("assembly", "LogEntry")
    old = LogEntry.objects.annotate(text=Cast("said", TextField())).filter(text__contains="packwork.")
    for entry in old.iterator(chunk_size=200):
        said = {
            key: {upgrade_path(path): v for path, v in value.items()} if key in ("facts", "changes") else value
            for key, value in entry.said.items()
        }
        LogEntry.objects.filter(pk=entry.pk).update(said=said)


class Migration(migrations.Migration):
    dependencies = [("assembly", "0001_the_log")]

    operations = [migrations.RunPython(upgrade_paths, migrations.RunPython.noop, elidable=True)]
