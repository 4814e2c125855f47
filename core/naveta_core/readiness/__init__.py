"""The pre-survey round: a few quick checks in the order in which they lean on each other, and go or not go at the end."""
