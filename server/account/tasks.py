"""Mail, which goes out from a worker: a mail server that is slow holds nobody up."""

from django.contrib.auth.models import User
from django.core.mail import send_mail
from django_tasks import task

from server.account.services import recovery_link

TEXT = """Somebody asked for a new password for the workshop “{name}”.

Choose one here, once and within a day:

{link}

If it was not you, nothing needs to be done: the password stays as it is.
"""


@task(queue_name="work")
def mail_recovery(user_id: int) -> None:
    """Sends a person the link to a new password."""
    user = User.objects.filter(pk=user_id).first()
    if user is not None and user.email:
        text = TEXT.format(name=user.get_username(), link=recovery_link(user))
        send_mail("A new password for your workshop", text, None, [user.email])
