"""The generated region as GeoJSON files."""

import json
from pathlib import Path
from typing import Any

import numpy as np
from shapely.geometry import mapping
from shapely.geometry.base import BaseGeometry

from demo.generator.ground import Ground, make_ground
from demo.generator.houses import numbered
from demo.generator.plane import to_degrees
from demo.generator.roads import SPEED, Road, make_roads

SEED = 47


def make_region(seed: int = SEED) -> dict[str, dict[str, Any]]:
    """FeatureCollections by file name: roads, houses, land, areas. The same seed gives the same region."""
    random = np.random.default_rng(seed)
    ground = make_ground(random)
    roads = _collection([_road(road) for road in make_roads(ground, random)])
    return {
        "roads": roads,
        "houses": _collection(list(numbered(roads))),
        "land": _collection(_land(ground)),
        "areas": _collection([_feature(cell.simplify(8), name=name) for name, cell in sorted(ground.cells.items())]),
    }


def write_region(folder: Path) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    for name, collection in make_region().items():
        text = json.dumps(collection, separators=(",", ":")).replace('{"type":"Feature"', '\n{"type":"Feature"')
        (folder / f"{name}.geojson").write_text(text + "\n")


def _road(road: Road) -> dict[str, Any]:
    line = road.line.simplify(1.0)
    return _feature(line, name=road.name, **{"class": road.kind}, speed_kmh=SPEED[road.kind], district=road.district)


def _land(ground: Ground) -> list[dict[str, Any]]:
    features = [_feature(ground.land.simplify(6), kind="land")]
    features += [_feature(hill.simplify(10), kind="hill", step=step) for step, hill in enumerate(ground.hills)]
    features += [_feature(line, kind="river", name=name) for name, line in ground.rivers.items()]
    features.append(_feature(ground.tarn, kind="tarn"))
    features.append(_feature(ground.runway, kind="runway"))
    features.append(_feature(ground.pier, kind="pier", name="Ferry Pier"))
    return features


def _feature(geometry: BaseGeometry, **properties: Any) -> dict[str, Any]:
    return {"type": "Feature", "properties": properties, "geometry": mapping(to_degrees(geometry))}


def _collection(features: list[dict[str, Any]]) -> dict[str, Any]:
    return {"type": "FeatureCollection", "features": features}
