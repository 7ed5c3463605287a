"""``Errand`` is ``ControllerCommand``; its table and index keep their names."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("link", "0003_port")]

    operations = [
        migrations.AlterModelTable("errand", "link_errand"),
        migrations.RenameModel("Errand", "ControllerCommand"),
        migrations.AlterField(
            "controllercommand",
            "build",
            models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="controller_commands", to="workshop.build"
            ),
        ),
    ]
