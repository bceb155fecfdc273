"""Scenes that people keep, as files and as rows; and the guided exercises with what is done of them."""

from __future__ import annotations

from typing import Any

from flask import Response, request

from ...core.bench.exercises import EXERCISES
from ...formats import scene_file
from ...formats.fields import SavedSceneFields, SceneFile
from ...store import exercises, scenes
from ..blueprint import StepBlueprint
from ..contract import BODY, Removed, answers, plain
from ..database import database
from ..files import attachment
from .contract import ExerciseList, ExerciseOut, SceneList, ScenePath, SceneSummary

api = StepBlueprint("scenes", __name__, "Scenes and exercises")


def _summary(scene: scenes.Scene) -> dict[str, Any]:
    return plain({"id": scene.id, "name": scene.saved.name, "note": scene.saved.note}, SceneSummary)


@api.get("/scenes", responses=answers(200, SceneList))
def list_scenes() -> dict[str, Any]:
    """All scenes."""
    return {"scenes": [_summary(scene) for scene in scenes.every(database())]}


@api.post("/scenes", responses=answers(201, SceneSummary, *BODY))
def add_scene(body: SavedSceneFields) -> tuple[dict[str, Any], int]:
    """Keep a scene."""
    saved = scene_file.from_fields(body.model_dump())
    return _summary(scenes.add(database(), saved)), 201


@api.post("/scenes/file", responses=answers(201, SceneSummary, *BODY))
def take_scene_file() -> tuple[dict[str, Any], int]:
    """Keep the scene of a scene file, sent as it is. A bad file is refused with the line and field at fault."""
    text = request.get_data(as_text=True)
    return _summary(scenes.add(database(), scene_file.read(text))), 201


@api.get("/scenes/<int:scene_id>/file", responses=answers(200, SceneFile, 404))
def give_scene_file(path: ScenePath) -> Response:
    """A scene as a scene file."""
    saved = scenes.get(database(), path.scene_id).saved
    return attachment(scene_file.write(saved), saved.name, "scene", "json")


@api.delete("/scenes/<int:scene_id>", responses=answers(200, Removed, 404))
def remove_scene(path: ScenePath) -> dict[str, Any]:
    """Forget a scene."""
    return {"removal": scenes.remove(database(), path.scene_id)}


@api.get("/exercises", responses=answers(200, ExerciseList))
def list_exercises() -> dict[str, Any]:
    """The guided exercises in working order, and when each was finished."""
    done = exercises.done(database())
    return {
        "exercises": [plain({**vars(one), "done_at": done.get(one.key)}, ExerciseOut) for one in EXERCISES.values()]
    }
