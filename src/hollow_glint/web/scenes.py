"""Scenes that people keep, as files and as rows; and the guided exercises with what is done of them."""

from __future__ import annotations

from typing import Any

from flask import Response, current_app, request
from flask_openapi3 import APIBlueprint, Tag

from ..core.bench.exercises import EXERCISES
from ..formats import scene_file
from ..formats.fields import SavedSceneFields, SceneFile
from ..store import exercises, scenes
from .contract import (
    BODY_PROBLEMS,
    ExerciseList,
    ExerciseOut,
    Problem,
    SceneList,
    ScenePath,
    SceneSummary,
    plain,
)

api = APIBlueprint("scenes", __name__, url_prefix="/api", abp_tags=[Tag(name="Scenes and exercises")])


def _summary(scene: scenes.Scene) -> dict[str, Any]:
    return plain({"id": scene.id, "name": scene.saved.name, "note": scene.saved.note}, SceneSummary)


@api.get("/scenes", responses={200: SceneList})
def list_scenes() -> dict[str, Any]:
    """All scenes."""
    return {"scenes": [_summary(scene) for scene in scenes.every(current_app.config["database"])]}


@api.post("/scenes", responses={201: SceneSummary, **BODY_PROBLEMS})
def add_scene(body: SavedSceneFields) -> tuple[dict[str, Any], int]:
    """Keep a scene."""
    saved = scene_file.from_fields(body.model_dump())
    return _summary(scenes.add(current_app.config["database"], saved)), 201


@api.post("/scenes/file", responses={201: SceneSummary, **BODY_PROBLEMS})
def take_scene_file() -> tuple[dict[str, Any], int]:
    """Keep the scene of a scene file, sent as it is. A bad file is refused with the line and field at fault."""
    text = request.get_data(as_text=True)
    return _summary(scenes.add(current_app.config["database"], scene_file.read(text))), 201


@api.get("/scenes/<int:scene_id>/file", responses={200: SceneFile, 404: Problem})
def give_scene_file(path: ScenePath) -> Response:
    """A scene as a scene file."""
    saved = scenes.get(current_app.config["database"], path.scene_id).saved
    answer = Response(scene_file.write(saved), mimetype="application/json")
    answer.headers["Content-Disposition"] = f'attachment; filename="scene-{path.scene_id}.json"'
    return answer


@api.delete("/scenes/<int:scene_id>", responses={204: None, 404: Problem})
def remove_scene(path: ScenePath) -> tuple[str, int]:
    """Forget a scene."""
    scenes.remove(current_app.config["database"], path.scene_id)
    return "", 204


@api.get("/exercises", responses={200: ExerciseList})
def list_exercises() -> dict[str, Any]:
    """The guided exercises in working order, and when each was finished."""
    done = exercises.done(current_app.config["database"])
    return {"exercises": [plain({**vars(one), "done_at": done.get(one.key)}, ExerciseOut) for one in EXERCISES]}
