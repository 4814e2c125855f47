"""Practice: a tripod and instruments under the hand, lessons, and what somebody did at them. Runs in the browser.

Tripod, tribrach and vials are the core's own mechanism, so that practice and advice never disagree; what is read off
instruments with hidden errors comes from the simulators. Nothing here is ever a record of a real instrument.
"""
