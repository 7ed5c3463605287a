from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("link", "0005_payload")]

    operations = [
        migrations.AlterField(model_name="controllercommand", name="kind", field=models.CharField(max_length=40)),
    ]
