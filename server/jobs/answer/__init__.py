"""What is worked out of a job and shown: its state in words, kept, summed up for lists, with what was learned."""
