"""What the core offers: every package names it truly, and the physics shows how each of it is used."""

import importlib
import inspect
import pkgutil

import pytest

import warmdraft

PACKAGES = sorted(module.name for module in pkgutil.walk_packages(warmdraft.__path__, "warmdraft.") if module.ispkg)
#: Packages whose functions each have an example that runs (the examples run with the docstring tests).
PHYSICS = ("airway", "vent", "heat", "meter", "trend", "diagnosis", "proof", "teardown")


@pytest.mark.parametrize("name", PACKAGES)
def test_a_package_has_all_that_it_says_it_has_and_says_all_that_it_takes_in(name):
    package = importlib.import_module(name)
    offered = set(getattr(package, "__all__", ()))
    assert all(hasattr(package, part) for part in offered)
    taken_in = {
        part for part, value in vars(package).items()
        if not part.startswith("_") and getattr(value, "__module__", "").startswith(f"{name}.")
    }  # fmt: skip
    assert taken_in <= offered


@pytest.mark.parametrize("name", PHYSICS)
def test_every_public_function_says_what_it_is_and_shows_how_it_is_used(name):
    package = importlib.import_module(f"warmdraft.{name}")
    functions = {part: inspect.unwrap(getattr(package, part)) for part in package.__all__}
    bare = [
        part for part, value in functions.items() if inspect.isfunction(value) and ">>>" not in (value.__doc__ or "")
    ]
    assert bare == []
