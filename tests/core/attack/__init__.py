"""Simulated crews with physics of their own: what share of honest work is judged wrongly, and how often the truth lies inside.

Each function takes a seeded generator and a number of runs and gives shares from 0 to 1. Nothing here is taken from the
core but its dispatch; `make rates` prints them all, the tests ask for them in small.
"""
