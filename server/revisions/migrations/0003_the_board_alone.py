from django.db import migrations

HISTORY = ("trips", "maintenance", "review")


def leave_out_history(apps, schema_editor):
    """A named point is what the board was; what happened to it stands beside the board."""
    Revision = apps.get_model("revisions", "Revision")
    for revision in Revision.objects.filter(document__has_any_keys=HISTORY).iterator(chunk_size=100):
        document = {key: value for key, value in revision.document.items() if key not in HISTORY}
        Revision.objects.filter(pk=revision.pk).update(document=document)


class Migration(migrations.Migration):
    dependencies = [("revisions", "0002_build_file_version_2")]

    operations = [migrations.RunPython(leave_out_history, migrations.RunPython.noop, elidable=True)]
