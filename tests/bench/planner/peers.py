"""The same problems for the peers: what an engineer would write with each library."""

import time
from typing import Any

import numpy as np

from tests.bench.planner.instances import Instance


def or_tools(one: Instance, seconds: float) -> list[list[int]]:  # noqa: C901 - one model, built from top to bottom
    """OR-Tools routing: parallel cheapest insertion, then guided local search."""
    from ortools.constraint_solver import pywrapcp, routing_enums_pb2

    began = time.perf_counter()
    n, m = one.n, one.m
    if one.depot:
        manager = pywrapcp.RoutingIndexManager(n + 1, m, 0)
        nodes = np.r_[0, one.place]
        node_of = list(range(1, n + 1))
        pace, lengths = np.zeros(m, int), one.length[:1]
    else:
        homes = list(range(n, n + m))
        manager = pywrapcp.RoutingIndexManager(n + m, m, homes, homes)
        nodes = np.r_[one.place, one.start_place]
        node_of = list(range(n))
        assert one.pace is not None
        assert one.length_by_pace is not None
        pace, lengths = one.pace, one.length_by_pace
    routing = pywrapcp.RoutingModel(manager)
    drive = one.drive[np.ix_(nodes, nodes)]
    routing.SetArcCostEvaluatorOfAllVehicles(routing.RegisterTransitMatrix(drive.tolist()))
    transits = []
    for row in lengths:
        service = np.zeros(len(nodes), int)
        service[node_of] = row
        transits.append(routing.RegisterTransitMatrix((drive + service[:, None]).tolist()))
    horizon = int(max(one.ends.max(), one.closes.max()))
    routing.AddDimensionWithVehicleTransits([transits[c] for c in pace], horizon, horizon, False, "time")
    clock = routing.GetDimensionOrDie("time")
    if one.demand is not None:
        demand = np.zeros(len(nodes), int)
        demand[node_of] = one.demand
        load = routing.RegisterUnaryTransitVector(demand.tolist())
        routing.AddDimensionWithVehicleCapacity(load, 0, [one.capacity] * m, True, "load")
    for c in range(n):
        index = manager.NodeToIndex(node_of[c])
        clock.CumulVar(index).SetRange(int(one.opens[c]), int(one.closes[c]))
        able = [int(v) for v in np.flatnonzero(one.length[:, c] >= 0)]
        if len(able) < m:
            routing.VehicleVar(index).SetValues([-1, *able])
        if not one.depot:
            routing.AddDisjunction([index], int(one.penalty[c]))
    for v in range(m):
        for end in (routing.Start(v), routing.End(v)):
            clock.CumulVar(end).SetRange(int(one.starts[v]), int(one.ends[v]))
        routing.AddVariableMinimizedByFinalizer(clock.CumulVar(routing.End(v)))
    if one.rest is not None:
        _lunch(routing, manager, clock, one, pace, lengths, node_of)
    parameters = pywrapcp.DefaultRoutingSearchParameters()
    parameters.first_solution_strategy = routing_enums_pb2.FirstSolutionStrategy.PARALLEL_CHEAPEST_INSERTION
    parameters.local_search_metaheuristic = routing_enums_pb2.LocalSearchMetaheuristic.GUIDED_LOCAL_SEARCH
    left = max(0.1, seconds - (time.perf_counter() - began))
    parameters.time_limit.FromMilliseconds(int(left * 1000))
    answer = routing.SolveWithParameters(parameters)
    routes: list[list[int]] = [[] for _ in range(m)]
    for v in range(m if answer else 0):
        index = routing.Start(v)
        while not routing.IsEnd(index):
            if not routing.IsStart(index):
                routes[v].append(manager.IndexToNode(index) - (1 if one.depot else 0))
            index = answer.Value(routing.NextVar(index))
    return routes


def _lunch(routing: Any, manager: Any, clock: Any, one: Instance, pace: Any, lengths: Any, node_of: list[int]) -> None:
    assert one.rest is not None
    begins, by, seconds = one.rest
    for v in range(one.m):
        service = [0] * routing.Size()
        for c in range(one.n):
            service[manager.NodeToIndex(node_of[c])] = int(lengths[pace[v]][c])
        interval = routing.solver().FixedDurationIntervalVar(begins, by, seconds, False, f"rest{v}")
        clock.SetBreakIntervalsOfVehicle([interval], v, service)


def py_vrp(one: Instance, seconds: float, seed: int) -> list[list[int]]:
    """PyVRP: hybrid search; skills and pace as one profile of travel times each."""
    from pyvrp import Client, Depot, Location, ProblemData, VehicleType, solve

    began = time.perf_counter()
    n, m = one.n, one.m
    locations = [Location(0, 0) for _ in range(n + (1 if one.depot else m))]
    if one.depot:
        assert one.demand is not None
        clients = [
            Client(location=int(one.place[c]), delivery=[int(one.demand[c])], service_duration=int(one.length[0, c]),
                   tw_early=int(one.opens[c]), tw_late=int(one.closes[c]))
            for c in range(n)
        ]  # fmt: skip
        depots = [Depot(location=0, tw_early=int(one.starts[0]), tw_late=int(one.ends[0]))]
        data = ProblemData(
            locations, clients, depots, [VehicleType(num_available=m, capacity=[one.capacity])], [one.drive],
            [one.drive],
        )  # fmt: skip
    else:
        data = _profiles(one, locations)

    class OutOfTime:
        def __call__(self, _cost: float) -> bool:
            return time.perf_counter() - began >= seconds

    result = solve(data, stop=OutOfTime(), seed=seed, display=False)
    routes: list[list[int]] = [[] for _ in range(m)]
    if result.best.is_feasible():
        for number, route in enumerate(result.best.routes()):
            visits = [int(activity.idx) for activity in route if activity.is_client()]
            routes[number if one.depot else route.vehicle_type()] = visits
    return routes


def _profiles(one: Instance, locations: list[Any]) -> Any:
    from pyvrp import Client, Depot, ProblemData, VehicleType

    assert one.pace is not None
    assert one.skills is not None
    assert one.length_by_pace is not None
    n, m = one.n, one.m
    clients = [
        Client(location=c, tw_early=int(one.opens[c]), tw_late=int(one.closes[c]), prize=int(one.penalty[c]),
               required=False)
        for c in range(n)
    ]  # fmt: skip
    profiles: dict[tuple[int, int], int] = {}
    distances, durations, vehicles = [], [], []
    for v in range(m):
        key = (int(one.pace[v]), int(one.skills[v]))
        if key not in profiles:
            profiles[key] = len(distances)
            service = np.zeros(n + m, np.int64)
            service[:n] = one.length_by_pace[key[0]]
            unable = np.flatnonzero(one.length[v] < 0)
            distance, duration = one.drive.copy(), one.drive + service[:, None]
            distance[:, unable], duration[:, unable] = 10**7, 10**6
            np.fill_diagonal(distance, 0)
            np.fill_diagonal(duration, 0)
            distances.append(distance)
            durations.append(duration)
        vehicles.append(
            VehicleType(start_depot=v, end_depot=v, tw_early=int(one.starts[v]), tw_late=int(one.ends[v]),
                        profile=profiles[key], capacity=[])
        )  # fmt: skip
    depots = [Depot(location=n + v) for v in range(m)]
    return ProblemData(locations, clients, depots, vehicles, distances, durations)
