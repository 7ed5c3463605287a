from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("sheets", "0002_what_each_controller_has"), ("workshop", "0001_initial")]

    operations = [
        migrations.RenameModel("SetSheet", "SettingsRecord"),
        migrations.AlterField(
            "settingsrecord",
            "build",
            models.ForeignKey("workshop.build", models.CASCADE, related_name="settings_records"),
        ),
        migrations.RenameField("attachment", "sheet", "record"),
    ]
