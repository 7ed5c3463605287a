from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("jobs", "0001_initial")]

    operations = [
        migrations.RenameField("job", "asked", "payload"),
        migrations.RenameField("job", "brought", "upload"),
    ]
