"""What every app of the server shares: how a body is read, how a refusal looks, pages of lists, slots for hard work."""
