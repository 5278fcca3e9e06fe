"""What holds for all tests."""

from hypothesis import settings

settings.register_profile("untimed", deadline=None)  # a busy machine is no slower code
settings.load_profile("untimed")
