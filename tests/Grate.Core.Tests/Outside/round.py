"""Writes round.json: the best round of small days by trying everything, with Python's itertools and math alone.

Every share-out of the stops among the vans, every order, every place where lunch can be taken: python3 round.py > round.json
"""
import itertools, json, math, random


def minutes(a, b, speed=45, factor=1.3):
    p, q = math.radians(a["lat"]), math.radians(b["lat"])
    h = math.sin((q - p) / 2) ** 2 + math.cos(p) * math.cos(q) * math.sin(math.radians(b["lon"] - a["lon"]) / 2) ** 2
    return 2 * 6371 * math.asin(math.sqrt(h)) * factor / speed * 60


def drive(van, order, lunch, light, hard):
    """Minutes driven and late and the end, with lunch before action number `lunch` (None: nowhere); None where it cannot be."""
    pause = van.get("lunch")
    time, at, way, late = van["dayStartMin"], van["start"], 0.0, 0.0
    action = 0

    def eat(time):
        if action == lunch:
            if time > pause["window"][1] + 1e-9:
                return None
            return max(time, pause["window"][0]) + pause["minutes"]
        return time

    for stop in order:
        time = eat(time)
        action += 1
        if time is None:
            return None
        leg = minutes(at, stop)
        time, way, at = time + leg, way + leg, stop
        time = eat(time)
        action += 1
        if time is None:
            return None
        start = max([time] + ([stop["window"][0]] if stop.get("window") else []) + ([stop["coldFromMin"]] if stop.get("coldFromMin") else []) + ([light[0]] if stop.get("needsDaylight") else []))
        over = max(0, start - stop["window"][1]) if stop.get("window") else 0
        if over > hard + 1e-9 or (stop.get("needsDaylight") and start + stop["serviceMin"] > light[1] + 1e-9):
            return None
        late, time = late + over, start + stop["serviceMin"]
    time = eat(time)
    if time is None:
        return None
    leg = minutes(at, van.get("end") or van["start"])
    time, way = time + leg, way + leg
    if time > van["dayEndMin"] + 1e-9:
        return None
    if pause and lunch is None and time > pause["window"][1] + 1e-9 and van["dayStartMin"] <= pause["window"][1]:
        return None
    return way, late, time


def best(question):
    light, hard = question.get("daylight", [480, 960]), question.get("hardLateMin", 60)
    stops, vans = question["stops"], question["vans"]
    routes = []
    for van in vans:
        own = {}
        for k in range(1, len(stops) + 1):
            for some in itertools.combinations(range(len(stops)), k):
                found = None
                for order in itertools.permutations(some):
                    for lunch in [None] + (list(range(2 * k + 1)) if van.get("lunch") else []):
                        got = drive(van, [stops[i] for i in order], lunch, light, hard)
                        if got and (found is None or got[0] + 3 * got[1] < found[0] + 3 * found[1]):
                            found = got
                if found:
                    own[some] = found
        routes.append(own)
    top = None
    for share in itertools.product(range(-1, len(vans)), repeat=len(stops)):
        way = late = 0.0
        for v, own in enumerate(routes):
            some = tuple(i for i, s in enumerate(share) if s == v)
            if some:
                if some not in own:
                    break
                way, late = way + own[some][0], late + own[some][1]
        else:
            left = [i for i, s in enumerate(share) if s < 0]
            key = (sum(bool(stops[i].get("urgent")) for i in left), len(left), way + 3 * late)
            if top is None or key < top[0]:
                top = (key, way, late)
    return dict(unplacedUrgent=top[0][0], unplaced=top[0][1], cost=top[0][2])


def main():
    chance = random.Random(17)
    place = lambda: dict(lat=round(47 + 0.25 * chance.random(), 4), lon=round(10 + 0.35 * chance.random(), 4))
    cases = []
    for n, vans in [(3, 1), (4, 1), (5, 1), (5, 2), (4, 2), (6, 1), (5, 1), (5, 2)]:
        stops = []
        for i in range(n):
            stop = dict(id=f"s{i + 1}", serviceMin=chance.choice([30, 45, 60, 75, 90]), **place())
            if chance.random() < 0.6:
                begin = chance.choice([480, 540, 600, 660, 720, 780])
                stop["window"] = [begin, begin + chance.choice([30, 60, 120])]
            if chance.random() < 0.3:
                stop["coldFromMin"] = chance.choice([600, 660, 720])
            if chance.random() < 0.3:
                stop["needsDaylight"] = True
            if chance.random() < 0.3:
                stop["urgent"] = True
            stops.append(stop)
        question = dict(stops=stops, daylight=[480, 960], vans=[
            dict(id=f"v{v + 1}", start=place(), dayStartMin=480, dayEndMin=chance.choice([840, 900, 1020]), **({"end": place()} if chance.random() < 0.3 else {}),
                 **({"lunch": dict(window=[690, 780], minutes=30)} if chance.random() < 0.8 else {})) for v in range(vans)])
        cases.append(dict(question=question, best=best(question)))
    print(json.dumps(cases, indent=1))


main()
