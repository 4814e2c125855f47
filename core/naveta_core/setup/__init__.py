"""The Stand: a tripod, a base and an instrument as one mechanism, and the advice that follows from it."""
