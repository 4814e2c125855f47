"""Write the API's contract: `python -m config.contract web/openapi.json` in server/."""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path


def contract() -> str:
    """The OpenAPI text the web's types are generated from."""
    from config.api import api

    schema = json.loads(json.dumps(api.get_openapi_schema()))
    return json.dumps(schema, indent=1, ensure_ascii=False, sort_keys=True) + "\n"


if __name__ == "__main__":
    import django

    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    django.setup()
    Path(sys.argv[1]).write_text(contract())
