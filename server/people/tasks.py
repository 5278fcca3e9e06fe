"""Work of the worker that is about people."""

from django.core.mail import send_mail
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

#: Tries of a job and the seconds before the next one; then it is dead and /healthz says so.
TRIES = RetryStrategy(max_attempts=6, exponential_wait=4)


@app.task(name="send_mail", queue="work", retry=TRIES)
def send_mail_later(to: str, subject: str, text: str) -> None:
    """Send one mail."""
    send_mail(subject, text, None, [to])


def mail(to: str, subject: str, text: str) -> None:
    """Queue a mail with the transaction that asks for it: nothing is sent where that rolls back."""
    send_mail_later.defer(to=to, subject=subject, text=text)
