"""`python -m hollow_glint` is `hollow-glint`."""

from .cli import main

raise SystemExit(main())
