#!/usr/bin/env python3
"""Writes reference.json: figures from libraries outside Grate, held against the core by OutsideTests.

Run with Debian's python3 after: apt-get install python3-fluids python3-iapws python3-scipy units
The file is kept with the tests; it is made anew only when a case is added.
"""
import datetime
import json
import math
import os
import re
import subprocess
import zoneinfo

import fluids
import iapws
import numpy as np
import scipy
from fluids.atmosphere import ATMOSPHERE_1976
from fluids.friction import Colebrook
from iapws import IAPWS97
from scipy.integrate import quad, solve_ivp
from scipy.optimize import LinearConstraint, brentq, milp
from scipy.stats import norm


def colebrook():
    # fluids divides the roughness by 3.7, the handbook by 3.71: the roughness handed over makes up for it.
    cases = [(2300, 0.0067), (4000, 0.0), (1e4, 0.01), (5e4, 0.001), (1e5, 1e-4), (1e6, 0.03)]
    return [{"re": re, "roughness": r, "psi": Colebrook(re, r * 3.7 / 3.71)} for re, r in cases]


def atmosphere():
    return [{"altitudeM": h, "pressurePa": ATMOSPHERE_1976(h).P, "densityKgM3": ATMOSPHERE_1976(h).rho,
             "celsius": ATMOSPHERE_1976(h).T - 273.15} for h in (0, 250, 1000, 2500, 4500)]


def dew_point():
    """Saturation temperature of pure water at a vapour pressure (IAPWS-IF97, region 4)."""
    return [{"vapourPa": p, "celsius": IAPWS97(P=p / 1e6, x=0.5).T - 273.15} for p in (872, 1228, 2339, 5000, 8000, 12000)]


# NIST Shomate coefficients, as the handbook prints them; the integration below is an implementation of its own.
SHOMATE = {
    "N2": [(500, 28.98641, 1.853978, -9.647459, 16.63537, 0.000117), (2000, 19.50583, 19.88705, -8.598535, 1.369784, 0.527601)],
    "O2": [(700, 31.32234, -20.23531, 57.86644, -36.50624, -0.007374), (2000, 30.03235, 8.772972, -3.988133, 0.788313, -0.741599)],
    "CO2": [(2000, 24.99735, 55.18696, -33.69137, 7.948387, -0.136638)],
    "H2O": [(2000, 30.09200, 6.832514, 6.793435, -2.534480, 0.082139)],
}
MOLAR = {"N2": 28.161, "O2": 31.998, "CO2": 44.009, "H2O": 18.015}


def heat(gas, kelvin):
    if gas in ("CO2", "H2O"):
        kelvin = max(kelvin, 298)
    t = kelvin / 1000
    for top, a, b, c, d, e in SHOMATE[gas]:
        if kelvin <= top:
            return a + b * t + c * t * t + d * t ** 3 + e / t ** 2


def flues():
    """Exit temperature and buoyancy of five flues: the handbook's equations integrated along the length, not in pieces."""
    p, g = 101325.0, 9.80665
    cases = {
        # burn, lambda, collar, outdoor, [(resistance, roughness mm, outdoor?, bare?, diameter, length, rise)]
        "P01": (2.0, 2.0, 250, 5, [(0, 1, 0, 1, .15, 1.5, 1.5), (.60, 1, 1, 0, .15, 5, 5)]),
        "P02": (1.0, 2.5, 150, 15, [(0, 1, 0, 1, .15, 1.5, 1.5), (.60, 1, 1, 0, .15, 5, 5)]),
        "P03": (3.5, 1.8, 350, -5, [(0, 1, 0, 1, .15, 1.5, 1.5), (.60, 1, 1, 0, .15, 5, 5)]),
        "P04": (2.0, 2.0, 300, 0, [(0, 1, 0, 1, .15, 1.6, 1.0), (.20, 1.5, 1, 0, .20, 7.5, 7.5)]),
        "tall": (2.5, 2.2, 280, -10, [(.15, 1, 0, 0, .15, 2, 2), (.35, 1, 0, 0, .15, 3, 3), (.35, 1, 1, 0, .15, 4, 4)]),
    }
    out = []
    for name, (burn, lam, collar, outdoor, segments) in cases.items():
        u, n_c, n_h2, n_of = 0.18, 0.50 / 12.011, 0.06 / 2.016, 0.44 / 31.998
        o = n_c + n_h2 / 2 - n_of
        n = {"CO2": n_c, "H2O": n_h2 + u / (1 - u) / 18.015, "O2": (lam - 1) * o, "N2": lam * o * 79.054 / 20.946}
        mass = sum(n[x] * MOLAR[x] for x in n)
        flow = burn * (1 - u) / 3600 * mass
        r_gas = 8314.46 * sum(n.values()) / mass
        total = sum(s[5] for s in segments)
        rho_out = p / (287.05 * (outdoor + 273.15))
        t, buoyancy = float(collar), 0.0
        for resistance, roughness, outside, bare, d, length, rise in segments:
            ta = outdoor if outside else 20
            area, perimeter = math.pi * d * d / 4, math.pi * d

            def slope(z, y):
                gas = y[0]
                cp = 1000 * sum(n[x] * heat(x, gas + 273.15) for x in n) / mass
                eta, k = 15e-6 + 47e-9 * gas - 20e-12 * gas ** 2, 0.0223 + 6.5e-5 * gas
                re = max(flow * d / (area * eta), 2300)
                psi, psi0 = Colebrook(re, roughness / 1000 / d * 3.7 / 3.71), Colebrook(re, 0.0)
                nu = (psi / psi0) ** .67 * .0214 * (re ** .8 - 100) * (eta * cp / k) ** .4 * (1 + (d / total) ** .67)
                inner = max(nu * k / d, 7)
                wall = 1 / (1 / inner + resistance + 1 / (23 if outside else 12 if bare else 8))
                lift = (rho_out - p / (r_gas * (gas + 273.15))) * g * rise / length
                return [-wall * perimeter * (gas - ta) / (flow * cp), lift]

            run = solve_ivp(slope, (0, length), [t, 0.0], rtol=1e-9, atol=1e-9)
            t, buoyancy = run.y[0][-1], buoyancy + run.y[1][-1]
        out.append({"name": name, "exitC": t, "buoyancyPa": buoyancy})
    return out


def growth():
    """Posterior of ln rate by numerical integration of prior times likelihood (handbook 02 section 5), and the median and
    90 % of the coming season's rate by integrating the season's scatter over it."""
    cases = [(0.06, []), (0.06, [(1.4, 2600)]), (0.03, [(0.0, 3000), (2.5, 2800)]), (0.2, [(1.1, 1500), (0.9, 1400), (1.6, 2100)])]
    out = []
    for model, seen in cases:
        logs = [math.log(max(g, 0.3) / (kg / 100)) for g, kg in seen]

        def weight(x):
            return norm.pdf(x, math.log(model), 0.8) * math.prod(norm.pdf(y, x, 0.35) for y in logs)

        low, high = math.log(model) - 6, math.log(model) + 6
        whole = quad(weight, low, high, limit=400)[0]
        mean = quad(lambda x: x * weight(x), low, high, limit=400)[0] / whole
        variance = quad(lambda x: (x - mean) ** 2 * weight(x), low, high, limit=400)[0] / whole

        def below(z):
            return quad(lambda x: weight(x) * norm.cdf(z, x, 0.2), low, high, limit=400)[0] / whole

        out.append({
            "model": model, "growthMm": [g for g, _ in seen], "woodKg": [kg for _, kg in seen], "mean": mean, "variance": variance,
            "p50": math.exp(brentq(lambda z: below(z) - 0.5, low, high)), "p90": math.exp(brentq(lambda z: below(z) - 0.9, low, high)),
        })
    return out


def conversions():
    """Every US unit of the screens in SI, by GNU units."""
    pairs = [("Draft", "inH2O", "Pa"), ("Length", "ft", "m"), ("Bore", "inch", "m"), ("Mass", "lb", "kg"), ("BurnRate", "lb/hour", "kg/hour"),
             ("LeakFlow", "lb/hour", "kg/s"), ("AirFlow", "ft^3/min", "m^3/s"), ("StationPressure", "inHg", "Pa"), ("Volume", "ft^3", "m^3"),
             ("SmallVolume", "gallon", "m^3"), ("Energy", "1e6 btu", "J"), ("Velocity", "ft/s", "m/s"), ("StackedVolume", "ft^3", "m^3")]
    def of(unit, si):
        return float(subprocess.run(["units", "-t", "-d", "12", unit, si], capture_output=True, text=True, check=True).stdout)
    return {"us": [{"quantity": q, "si": of(unit, si)} for q, unit, si in pairs], "cordM3": of("cord", "m^3"), "kWhJ": of("kWh", "J")}


def sweep_dates():
    """Dates of handbook 02 section 5 day by day with NumPy's calendar, over climates of both halves of the earth and leap years."""
    rng = np.random.default_rng(1847)
    days_of = np.array([31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31])
    climates = [[-1, 0, 4, 8, 13, 16, 18, 18, 14, 9, 4, 0], [17, 17, 15, 11, 8, 5, 4, 5, 8, 11, 13, 15], [25] * 12, [-12, -11, -6, 0, 6, 12, 15, 13, 8, 2, -5, -10],
                [22, 22, 20, 17, 14, 11, 10, 11, 13, 16, 18, 21]]
    out = []
    for i in range(60):
        monthly = np.array(climates[i % len(climates)], dtype=float)
        last = np.datetime64("2023-01-01") + int(rng.integers(0, 1600))
        if i == 0:
            last = np.datetime64("2024-02-29")
        left, wood = round(float(rng.uniform(0, 1.5)), 2), round(float(rng.uniform(0, 6000)))
        rate = [float(r) for r in np.sort(np.exp(rng.normal(-3.2, 0.7, 3)))]
        today = last + int(rng.integers(0, 500))
        degree_days = np.maximum(0, 18 - monthly) * days_of
        share = degree_days / degree_days.sum() if degree_days.sum() > 0 else days_of / 365
        days = last + np.arange(3700)
        months = days.astype("datetime64[M]")
        length = ((months + 1).astype("datetime64[D]") - months.astype("datetime64[D]")).astype(int)
        daily = wood * share[months.astype(int) % 12] / length
        burnt = np.concatenate([[0.0], np.cumsum(daily)])

        def reaches(r, limit):
            there = np.nonzero(left + r * burnt[:3654] / 100 >= limit)[0]
            return None if there.size == 0 else last + int(there[0])

        p50, p90, stop = reaches(rate[1], 3), reaches(rate[2], 3), reaches(rate[2], 6)
        in_a_year = datetime.date.fromisoformat(str(last))
        yearly = np.datetime64(in_a_year.replace(year=in_a_year.year + 1, day=28 if (in_a_year.month, in_a_year.day) == (2, 29) else in_a_year.day))
        date, bound = (p90, "Deposit") if p90 is not None and p90 <= yearly else (yearly, "Yearly")
        warmest = int(np.argmax(monthly))
        first = next((m for m in ((warmest + k) % 12 for k in range(1, 13)) if degree_days[m] >= 150), None)
        if first is not None:
            year = int(str(date)[:4])
            starts = [np.datetime64(f"{y}-{first + 1:02d}-01") for y in (year - 1, year)]
            s = max(x for x in starts if x < date)
            w = lambda to: burnt[max(0, (to - last).astype(int))]
            if s > last and s >= today and w(date) > 0 and w(s) >= w(date) / 2:
                date, bound = s, "Season"
        text = lambda d: None if d is None else str(d)
        out.append({"last": str(last), "today": str(today), "left": left, "wood": wood, "monthly": monthly.tolist(), "rate": rate,
                    "p50": text(p50), "p90": text(p90), "stop": text(stop), "next": str(date), "bound": bound})
    return out


# python3's zoneinfo: every clock change of 2027 in fifteen zones, and an ordinary day; days without midnight among them.
def zones():
    out = []
    for name in ["America/Los_Angeles", "Pacific/Auckland", "America/Santiago", "Asia/Beirut", "Africa/Cairo", "Europe/Vienna", "Australia/Lord_Howe", "America/St_Johns",
                 "Pacific/Honolulu", "Pacific/Kiritimati", "Asia/Kathmandu", "America/Sao_Paulo", "Europe/Dublin", "Africa/Casablanca", "Asia/Tokyo"]:
        zone = zoneinfo.ZoneInfo(name)

        def first(day):
            # The first quarter of an hour that belongs to the day.
            at = datetime.datetime(day.year, day.month, day.day, tzinfo=datetime.timezone.utc) - datetime.timedelta(hours=16)
            while at.astimezone(zone).date() < day:
                at += datetime.timedelta(minutes=15)
            return at

        days = [datetime.date(2027, 1, 1) + datetime.timedelta(days=i) for i in range(366)]
        for day, after in zip(days, days[1:]):
            hours = (first(after) - first(day)).total_seconds() / 3600
            if hours != 24 or day == datetime.date(2027, 10, 31):
                out.append({"zone": name, "day": str(day), "from": first(day).isoformat(), "hours": hours,
                            "evening": datetime.datetime(day.year, day.month, day.day, 18, tzinfo=zone).astimezone(datetime.timezone.utc).isoformat()})
    return out


# fluids, flow through a sharp opening; a wide pipe before it, so that nothing is carried over of the approach.
def leaks():
    out = []
    for l0, l1, draft, room, altitude in [(0.2, 0, 12, 20, 0), (0.3, 0.4, 12, 20, 0), (0.05, 1.2, 4, 16, 1400), (1.1, 0.3, 35, 28, 600)]:
        area = 0.0005 * l0 + 0.00015 * l1
        opening = math.sqrt(4 * area / math.pi)
        air = ATMOSPHERE_1976(altitude).P / (287.05 * (room + 273.15))
        flow = fluids.flow_meter.flow_meter_discharge(D=100 * opening, Do=opening, P1=1e5, P2=1e5 - draft, rho=air, C=0.6)
        out.append({"l0": l0, "l1": l1, "draft": draft, "room": room, "altitude": altitude, "kgH": flow * 3600})
    return out


def cuts():
    """Every way to cut small problems, one need after the other: what no search can do better."""
    rng = np.random.default_rng(303)
    out = []
    for _ in range(40):
        needs = [int(n) for n in rng.integers(300, 2600, rng.integers(1, 7))]
        stock = [int(n) for n in rng.integers(400, 3000, rng.integers(0, 4))]
        offers = [(int(mm), int(price)) for mm, price in zip(rng.choice([1500, 1800, 2100, 2500, 5000], rng.integers(0, 4), replace=False), rng.integers(5, 40, 4))]
        best = None

        def go(i, pieces, unmet):
            # A piece: its length, its price, whether it is of the stock (and which), what is left.
            nonlocal best
            if i == len(needs):
                found = (unmet, sum(p[1] for p in pieces), sum(p[3] for p in pieces), len(pieces))
                best = found if best is None else min(best, found)
                return
            n = needs[i]
            for k, (mm, price, which, left) in enumerate(pieces):
                if left >= n:
                    go(i + 1, pieces[:k] + [(mm, price, which, left - n)] + pieces[k + 1:], unmet)
            for j, mm in enumerate(stock):
                if mm >= n and all(p[2] != j for p in pieces):
                    go(i + 1, pieces + [(mm, 0, j, mm - n)], unmet)
            for mm, price in offers:
                if mm >= n:
                    go(i + 1, pieces + [(mm, price, None, mm - n)], unmet)
            go(i + 1, pieces, unmet + 1)

        go(0, [], 0)
        out.append({"needs": needs, "stock": stock, "offers": offers, "unmet": best[0], "cost": best[1], "wasteMm": best[2], "pieces": best[3]})
    return out


def cut_weeks():
    """Forty ropes out of two kits: the least cost by scipy's integer program over every way to fill a kit."""
    rng = np.random.default_rng(340)
    out = []
    for kits in [((2100, 11), (3000, 15)), ((2500, 12),), ((2200, 10), (2750, 13))]:
        needs = sorted(int(n) for n in rng.integers(700, 2100, 40))
        ways = []
        for mm, price in kits:
            def fill(first, left, way):
                if way:
                    ways.append((price, way))
                for n in range(first, len(needs)):
                    if needs[n] > left:
                        break
                    fill(n + 1, left - needs[n], way + [n])
            fill(0, mm, [])
        met = np.zeros((len(needs), len(ways)))
        for column, (_, way) in enumerate(ways):
            met[way, column] = 1
        best = milp([price for price, _ in ways], constraints=LinearConstraint(met, 1, 1), integrality=np.ones(len(ways)), bounds=(0, 1))
        assert best.success and best.mip_gap == 0
        out.append({"needs": needs, "kits": kits, "cost": round(best.fun)})
    return out


def cells():
    """Laminar flow through square cells: fluids' 64/Re, in the proportion of a square's 56.9 (Shah and London) to a circle's 64."""
    out = []
    for side, length, area, celsius in [(0.0045, 0.05, 0.018, 450), (0.005, 0.05, 0.015, 500), (0.004, 0.05, 0.028, 400)]:
        density, viscosity = 101325 * 0.0288 / (8.314 * (celsius + 273.15)), 3.5e-5
        open_share = 0.75

        def drop(kg_h, dark, coating):
            # Gas of a high fire: about 14 kg to a kg of wood.
            flow = kg_h * 14 / 3600 / density
            number = area * open_share / side ** 2 * (1 - dark)
            cell = side ** 2 * (1 - coating)
            velocity, diameter = flow / number / cell, math.sqrt(cell)
            re = density * velocity * diameter / viscosity
            return {"re": re, "pa": fluids.friction.friction_factor(Re=re) * 56.91 / 64 * length / diameter * density * velocity ** 2 / 2}

        clean = drop(3.5, 0, 0)
        for kg_h, dark, coating in [(3.5, 0.2, 0), (3.5, 0.5, 0), (3.5, 0.2, 0.1), (1.2, 0.35, 0.3)]:
            now = drop(kg_h, dark, coating)
            out.append({"burnKgH": kg_h, "dark": dark, "coating": coating, "re": now["re"], "cleanPa": clean["pa"], "pa": now["pa"]})
    return out


def ducts():
    """Loss of an air duct: fluids' friction (laminar and Colebrook) and K factors, air by its standard atmosphere's viscosity."""
    out = []
    for kind, length, mm, zeta, kg_h, celsius in [("smooth", 3.3, 75, 2.5, 30.5457, -10), ("smooth", 8, 100, 4.0, 30.5457, -20), ("flex", 6, 100, 4.5, 30.5457, -10),
                                                  ("flex", 12, 150, 5.5, 12.0, 10), ("smooth", 20, 125, 3.0, 4.0, 0), ("smooth", 2, 75, 1.0, 60.0, 5)]:
        kelvin, diameter = celsius + 273.15, mm / 1000
        density, viscosity = 101325 / 287.05 / kelvin, ATMOSPHERE_1976.viscosity(kelvin)
        velocity = kg_h / 3600 / density / (math.pi / 4 * diameter ** 2)
        re = fluids.Reynolds(V=velocity, D=diameter, rho=density, mu=viscosity)
        factor = 64 / re if re < 2300 else Colebrook(re, 0.09 / mm * 3.7 / 3.71)
        k = fluids.core.K_from_f(fd=factor, L=length * (2.5 if kind == "flex" else 1), D=diameter) + zeta
        out.append({"kind": kind, "lengthM": length, "mm": mm, "zeta": zeta, "airKgH": kg_h, "celsius": celsius, "re": re,
                    "lossPa": fluids.core.dP_from_K(K=k, rho=density, V=velocity)})
    return out


def insulation():
    """Least insulation round a cold duct: Fourier's law integrated over the radius, the film outside, the surface brought to the dew point."""
    out = []
    for mm, room, dew, cold, k, film in [(100, 21, 10.181, -20, 0.04, 8), (100, 21, 6.884, -10, 0.04, 8), (75, 22, 14.0, -25, 0.035, 6), (150, 20, 9.0, 5, 0.06, 10)]:
        inner = mm / 2000

        def surface(thickness):
            outer = inner + thickness
            wall = quad(lambda r: 1 / (2 * math.pi * r * k), inner, outer)[0]
            film_resistance = 1 / (2 * math.pi * outer * film)
            return room - (room - cold) * film_resistance / (wall + film_resistance)

        out.append({"mm": mm, "roomC": room, "dewC": dew, "coldC": cold, "k": k, "film": film,
                    "thicknessMm": 1000 * brentq(lambda t: surface(t) - dew, 1e-7, 0.5)})
    return out


here = os.path.dirname(os.path.abspath(__file__))
with open(os.path.join(here, "reference.json"), "w", encoding="utf-8") as file:
    text = json.dumps({
        "versions": {"fluids": fluids.__version__, "iapws": iapws.__version__, "scipy": scipy.__version__},
        "colebrook": colebrook(), "atmosphere": atmosphere(), "dewPoint": dew_point(), "flues": flues(),
        "growth": growth(), "conversions": conversions(), "sweepDates": sweep_dates(), "zones": zones(),
        "leaks": leaks(), "cuts": cuts(), "cutWeeks": cut_weeks(), "cells": cells(), "ducts": ducts(), "insulation": insulation(),
    }, indent=1)
    # A row is a line.
    file.write(re.sub(r"\n {3,}|\n {2}(?=[\]}])", " ", text) + "\n")
