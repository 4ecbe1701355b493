"""HTTP: addresses and the map."""

import math
from typing import Annotated, Any

import orjson
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status

from apps.company.queries import area_at
from apps.roads import files, queries, region
from apps.roads.models import RegionFile
from apps.roads.schemas import (
    AddressOut,
    Layer,
    LayerOut,
    RegionFileOut,
    RegionIn,
    RoadRegionOut,
    TourOut,
    ToursIn,
    TrafficOut,
)
from core.basics import Place
from core.roads import Match
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.errors import NotFound
from foundation.moments import Moment
from foundation.schemas import Typed

router = Router()
Lon = Annotated[float, Query(ge=-180, le=180)]
Lat = Annotated[float, Query(ge=-90, le=90)]


@router.get("/roads/addresses", response=list[AddressOut], auth=Needs(Action.SEE_MAP))
def addresses(request: HttpRequest, text: Typed) -> list[dict[str, Any]]:
    """Addresses of the region by typing, best first."""
    return [_address(match) for match in queries.find_addresses(text)]


@router.get("/roads/address-at", response=AddressOut, auth=Needs(Action.SEE_MAP))
def address_at(request: HttpRequest, lon: Lon, lat: Lat) -> dict[str, Any]:
    """The address nearest to a point."""
    match = queries.address_at(Place(lon, lat))
    if match is None:
        raise NotFound("The map has no addresses.")
    return _address(match)


@router.get("/roads/map/{layer}", response=LayerOut, auth=Needs(Action.SEE_MAP))
def map_layer(request: HttpRequest, layer: Layer) -> HttpResponse:
    """A layer of the map, as GeoJSON. Kept by browsers, which ask each time whether it is still the same."""
    _path, mark = region.mark()
    etag = f'"{layer}-{mark}"'
    if request.headers.get("If-None-Match") == etag:
        return HttpResponse(status=304)
    answer = HttpResponse(orjson.dumps(queries.map_layer(layer)), content_type="application/json")
    answer["Cache-Control"], answer["ETag"] = "private, no-cache", etag
    return answer


@router.get("/roads/traffic", response=TrafficOut, auth=Needs(Action.SEE_MAP))
def traffic(request: HttpRequest, at: Moment) -> dict[str, Any]:
    """How much of its free speed is left on each class of road, in the period of the day that `at` falls in."""
    period, shares = queries.traffic(at)
    return {"period": period, "shares": shares}


@router.post("/roads/tours", response=list[TourOut], auth=Needs(Action.SEE_MAP))
def tours(request: HttpRequest, body: ToursIn) -> list[dict[str, Any]]:
    """The roads through some places, for each of several tours. By POST, because they can be long; nothing changes."""
    found = queries.tours([([Place(lon, lat) for lon, lat in tour.points], tour.at) for tour in body.tours])
    return [{"points": points} for points in found]


@router.get("/roads/region", response=RoadRegionOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def region_now(request: HttpRequest) -> dict[str, Any]:
    """What there is of the region, and the last extract that was brought in."""
    facts = queries.region_facts()
    return {
        **vars(facts), "is_own": region.is_own(), "can_change": not settings.DEMO, "last": files.latest(),
    }  # fmt: skip


@router.post("/roads/region", response={201: RegionFileOut}, auth=Needs(Action.MANAGE_ACCOUNTS))
def bring_region(request: HttpRequest, body: RegionIn) -> Status[RegionFile]:
    """Have an extract of OpenStreetMap brought in, in the background. The old region stays until the new one is
    there."""
    row = files.ask(actor=actor_of(request), now=clock.now(), key=body.key, name=body.name, path=body.path)
    return Status(201, row)


def _address(match: Match) -> dict[str, Any]:
    area = area_at(match.place)
    return {
        "address": match.address.text,
        "lon": match.place.lon,
        "lat": match.place.lat,
        "likeness": round(match.likeness, 1) if math.isfinite(match.likeness) else 0.0,
        "missing": match.missing,
        "area": area.name if area else None,
    }
