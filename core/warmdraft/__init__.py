"""Warm Draft's core: the physics and the judgement of a dryer that does not get its air.

Pure computation: no network, no clock, no global state; the only files read are its own data.
"""
