from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("benchtests", "0001_initial")]

    operations = [migrations.RenameField("benchtest", "sheet_number", "record_number")]
