from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("link", "0004_controller_command")]

    operations = [migrations.RenameField("controllercommand", "asked", "payload")]
