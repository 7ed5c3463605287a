from django.db import migrations

from boardmath.buildfile.migration import upgrade


def upgrade_documents(apps, schema_editor):
    """Stored build files under today's names, so that what is queried and exported has one form."""
    Build = apps.get_model("workshop", "Build")
    for build in Build.objects.filter(document__version=1).iterator(chunk_size=100):
        Build.objects.filter(pk=build.pk).update(document=upgrade(build.document))


class Migration(migrations.Migration):
    dependencies = [("workshop", "0003_parts_and_revisions_have_apps_of_their_own")]

    operations = [migrations.RunPython(upgrade_documents, migrations.RunPython.noop, elidable=True)]
