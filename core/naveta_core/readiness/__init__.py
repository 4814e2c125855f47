"""The pre-survey round: a few quick checks in the order in which they depend on each other, and go or not go at the end."""
