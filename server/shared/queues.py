"""The queues that work waits in, so that a worker can be kept for each: a long one holds up no mail."""

#: Mails; what takes a core for seconds (sounds, prints, plans); all else.
MAIL, HEAVY, WORK = "mail", "heavy", "work"
QUEUES = (MAIL, HEAVY, WORK)
