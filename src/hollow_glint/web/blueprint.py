"""A step's addresses, described when somebody asks: the program starts without working its own document out."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from flask_openapi3 import APIBlueprint, OpenAPI, Tag
from flask_openapi3.utils import parse_parameters


class StepBlueprint(APIBlueprint):
    """Addresses under /api. What the OpenAPI document says of them is collected by `describe`."""

    def __init__(self, name: str, import_name: str, tag: str) -> None:
        super().__init__(name, import_name, url_prefix="/api", abp_tags=[Tag(name=tag)])
        self._undescribed: list[tuple[str, Callable[..., Any], dict[str, Any]]] = []
        self._describing = threading.Lock()

    def _collect_openapi_info(self, rule: str, func: Callable[..., Any], **told: Any) -> Any:
        # Building the JSON schemas of all addresses was a third of the start, and most runs never look at them.
        self._undescribed.append((rule, func, told))
        return parse_parameters(func, doc_ui=False)

    def describe(self, app: OpenAPI) -> None:
        """Put paths, schemas and tags of these addresses into the document of `app`."""
        with self._describing:
            for rule, func, told in self._undescribed:
                super()._collect_openapi_info(rule, func, **told)
            self._undescribed.clear()
        for tag in self.tags:
            if tag.name not in app.tag_names:
                app.tags.append(tag)
                app.tag_names.append(tag.name)
        app.paths.update(self.paths)
        app.components_schemas.update(self.components_schemas)
