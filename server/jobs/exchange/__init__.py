"""Jobs in from files, and many writes in one request."""
