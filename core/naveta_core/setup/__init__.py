"""Set-up: a tripod, a tribrach and an instrument as one mechanism, and the advice that follows from it."""
