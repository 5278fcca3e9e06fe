"""The day: which van goes where and when, and what is brought along."""
