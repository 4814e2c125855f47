"""Simulated instruments with secrets: what an eye sees through them, what their screws move, and how somebody did.

A situation is a lesson and a number: two people with the same number meet the same instrument, error and weather.
"""
