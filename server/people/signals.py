"""What others are told of people: sent in the transaction of the act itself."""

from django.dispatch import Signal

#: Somebody signed out, or was signed out elsewhere. person: who.
sittings_ended = Signal()
