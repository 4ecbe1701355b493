"""Wire shapes of the company."""

from ninja import Schema


class DepotOut(Schema):
    id: int
    name: str
    address: str
    lon: float
    lat: float


class AreaOut(Schema):
    id: int
    name: str


class CompanyOut(Schema):
    name: str
    time_zone: str
    currency: str
    areas: list[AreaOut]
    depots: list[DepotOut]
