from django.db import migrations, models

HISTORY = ("trips", "maintenance", "review")


def move_out(apps, schema_editor):
    """What happened to a board into a column of its own."""
    Build = apps.get_model("workshop", "Build")
    for build in Build.objects.iterator(chunk_size=100):
        history = {key: build.document.pop(key) for key in HISTORY if key in build.document}
        if history:
            Build.objects.filter(pk=build.pk).update(document=build.document, history=history)


def move_back(apps, schema_editor):
    Build = apps.get_model("workshop", "Build")
    for build in Build.objects.exclude(history={}).iterator(chunk_size=100):
        Build.objects.filter(pk=build.pk).update(document=build.document | build.history)


class Migration(migrations.Migration):
    dependencies = [("workshop", "0004_build_file_version_2")]

    operations = [
        migrations.AddField(model_name="build", name="history", field=models.JSONField(default=dict)),
        migrations.RunPython(move_out, move_back, elidable=True),
    ]
