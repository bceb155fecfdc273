"""The forms of lure, a file each: every file here that has a `FORM` is one."""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from ..form import Form

FORMS: dict[str, Form] = {
    form.name: form
    for form in sorted(
        (import_module(f"{__name__}.{module.name}").FORM for module in iter_modules(__path__)),
        key=lambda form: (form.order, form.name),
    )
}
