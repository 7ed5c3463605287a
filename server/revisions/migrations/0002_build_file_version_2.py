from django.db import migrations

from boardmath.buildfile.migration import upgrade


def upgrade_documents(apps, schema_editor):
    """Stored build files under today's names."""
    Revision = apps.get_model("revisions", "Revision")
    for revision in Revision.objects.filter(document__version=1).iterator(chunk_size=100):
        Revision.objects.filter(pk=revision.pk).update(document=upgrade(revision.document))


class Migration(migrations.Migration):
    dependencies = [("revisions", "0001_initial")]

    operations = [migrations.RunPython(upgrade_documents, migrations.RunPython.noop, elidable=True)]
