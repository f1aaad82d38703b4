"""Benchmarks: ratios measured in one run, never part of the tests."""
