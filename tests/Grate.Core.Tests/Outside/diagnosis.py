"""Writes diagnosis.json: posteriors and gains by plain enumeration with Python's fractions of sets, from the same table and nothing else.

python3 diagnosis.py > diagnosis.json      (itertools and math alone; about a minute)
"""
import itertools, json, math, pathlib, random, re

TABLE = (pathlib.Path(__file__).resolve().parents[3] / "src/Grate.Core/Diagnosis/TroubleTable.cs").read_text()
rows = [re.findall(r'"((?:[^"\\]|\\.)*)"|(?<=, )([0-9.]+)(?=,)', line) for line in TABLE.splitlines() if line.strip().startswith('("')]
rows = [[text or number for text, number in row] for row in rows]
KINDS = {r[0]: r[1].split() for r in rows if len(r) == 2}
CAUSES = [r for r in rows if len(r) == 7]
FINDINGS = [r for r in rows if len(r) == 6]


def has(needs, features):
    if needs in ("", "all"):
        return True
    if needs.startswith("no "):
        return needs[3:] not in features
    return any(n in features for n in needs.split("/"))


def answer(kind, catalytic, told):
    features = set(KINDS[kind])
    if catalytic:
        features = (features | {"combustor", "bypass", "thermostat"}) - {"tubes"}
    causes = [dict(code=c[0], p=float(c[2]), links={l.split(":")[0]: float(l.split(":")[1]) for l in c[4].split()}) for c in CAUSES if has(c[3], features)]
    findings = {f[0]: dict(leak=float(f[4]), graded=[float(x) for x in f[5].split("/")] if f[5] else None, when=f[2].split()[0], test=(f[3].split() + [f[0]])[1] if len(f[3].split()) > 1 else f[0], minutes=float(f[3].split()[0]))
                for f in FINDINGS if has(" ".join(f[2].split()[1:]), features) and any(f[0] in c["links"] for c in causes)}
    sets = [s for k in range(4) for s in itertools.combinations(range(len(causes)), k)]

    def yes(f, s):
        off, mute = 1 - findings[f]["leak"], 1.0
        for c in s:
            link = causes[c]["links"].get(f, 0)
            off *= 1 - max(link, 0)
            mute *= 1 - max(-link, 0)
        return (1 - off) * mute

    def draft(s):
        a, b = yes("draft-low", s), yes("draft-over", s)
        return {"low": a * (1 - b), "over": b * (1 - a), "band": 1 - a - b + 2 * a * b}

    def degree(f, v):
        if isinstance(v, bool):
            return float(v)
        if isinstance(v, str):
            return {"sound": 0.0, "wearing": 0.5, "spent": 1.0, "unsafe": 1.0}[v]
        m, w = findings[f]["graded"]
        return 1 / (1 + math.exp(-(v - m) / w))

    def likelihood(s, told):
        out = 1.0
        low, over = told.get("draft-low"), told.get("draft-over")
        for f, v in told.items():
            if f not in ("draft-low", "draft-over"):
                e = degree(f, v)
                out *= e * yes(f, s) + (1 - e) * (1 - yes(f, s))
        d = draft(s)
        if low is not None and over is not None:
            el, eo = degree("draft-low", low), degree("draft-over", over)
            out *= eo * d["over"] + (1 - eo) * el * d["low"] + (1 - eo) * (1 - el) * d["band"]
        elif low is not None:
            e = degree("draft-low", low)
            out *= e * d["low"] + (1 - e) * (d["band"] + d["over"])
        elif over is not None:
            e = degree("draft-over", over)
            out *= e * d["over"] + (1 - e) * (d["band"] + d["low"])
        return out

    def weigh(factor):
        w = []
        for s in sets:
            v = factor(s)
            for c in s:
                v *= causes[c]["p"] / (1 - causes[c]["p"])
            w.append(v)
        return w

    def marginals(w):
        m = [0.0] * len(causes)
        for s, v in zip(sets, w):
            for c in s:
                m[c] += v
        return [x / sum(w) for x in m]

    w = weigh(lambda s: likelihood(s, told))
    m, prior = marginals(w), marginals(weigh(lambda s: 1.0))
    g = [max(0, 1 - p / x) if x > p + 1e-12 else 0 for x, p in zip(m, prior)]
    if not any(g):
        g = [1.0] * len(g)
    h = lambda x: 0 if x <= 0 or x >= 1 else -x * math.log2(x) - (1 - x) * math.log2(1 - x)
    doubt = lambda m: sum(a * h(x) for a, x in zip(g, m))
    gains = {}
    for test in sorted({f["test"] for f in findings.values()}):
        open_ = [n for n, f in findings.items() if f["test"] == test and n not in told and f["when"] != "known"]
        if not open_ or (test == "draft" and len(open_) < 2):
            continue
        kinds = ["low", "band", "over"] if test == "draft" else list(itertools.product([True, False], repeat=len(open_)))
        after = 0.0
        for o in kinds:
            v = []
            for s, x in zip(sets, w):
                if test == "draft":
                    x *= draft(s)[o]
                else:
                    for f, y in zip(open_, o):
                        x *= yes(f, s) if y else 1 - yes(f, s)
                v.append(x)
            after += sum(v) / sum(w) * doubt(marginals(v))
        gains[test] = doubt(m) - after
    return dict(kind=kind, catalytic=catalytic, told=told, none=w[0] / sum(w), causes={c["code"]: x for c, x in zip(causes, m)}, gains=gains)


def main():
    chance = random.Random(9)
    cases = []
    for kind, catalytic in [("steel", False), ("steel", True), ("multi-fuel", False), ("masonry-heater", False), ("cookstove", False), ("zero-clearance", False)]:
        features = set(KINDS[kind])
        if catalytic:
            features = (features | {"combustor", "bypass", "thermostat"}) - {"tubes"}
        offered = [f for f in FINDINGS if has(" ".join(f[2].split()[1:]), features) and any(f[0] in c[4].replace(":", " ").split() and has(c[3], features) for c in CAUSES)]
        told = {}
        for f in chance.sample(offered, 7):
            if f[5] and chance.random() < 0.6:
                m, wd = (float(x) for x in f[5].split("/"))
                told[f[0]] = round(m + 2 * wd * chance.uniform(-1, 1), 3)
            elif f[2].startswith("cold") and chance.random() < 0.3:
                told[f[0]] = chance.choice(["sound", "wearing", "spent"])
            else:
                told[f[0]] = chance.random() < 0.6
        cases.append(answer(kind, catalytic, told))
    print(json.dumps(cases, indent=1))


main()
