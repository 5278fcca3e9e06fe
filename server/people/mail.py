"""Mail: queued with the transaction that asks for it, sent by the worker, tried again when it fails."""

from people.tasks import send_mail_later


def mail(to: str, subject: str, text: str) -> None:
    """Queue a mail. Nothing is sent where the transaction rolls back."""
    send_mail_later.defer(to=to, subject=subject, text=text)
