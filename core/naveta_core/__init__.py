"""Naveta's core: what readings off survey instruments say, how sure that is, and what to do next.

Plain functions from one check document to one result. No clock, no files, no network: the same code
runs on the server and in the browser. Start reading at `registry.parse`, `engine.kind` and `checks.KINDS`.
"""

__version__ = "0.9.0"
