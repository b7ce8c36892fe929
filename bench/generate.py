#!/usr/bin/env python3
"""Makes an instance of the appointment problem of any size, in the family of large-1: python3 bench/generate.py --swaps 20000 --technicians 60 --sites 40 --days 60 --seed 1 > instance.json

The same arguments give the same instance. Days 5 and 6 of each week are free; people are free in two to five stretches of some hours; about a tenth waits for a computer.
"""
import argparse, json, random

a = argparse.ArgumentParser()
for name, value in (("swaps", 20000), ("technicians", 60), ("sites", 40), ("days", 60), ("seed", 1)):
    a.add_argument(f"--{name}", type=int, default=value)
o = a.parse_args()
r = random.Random(o.seed)
work = [d for d in range(o.days) if (d + 1) % 7 not in (6, 0)]
sites = [f"S{i + 1:02}" for i in range(o.sites)]
skills = ["laptop", "desktop", "mac", "imaging"]
technicians = []
for i in range(o.technicians):
    start, lunch, end = r.choice(((450, 735, 765), (510, 690, 750), (480, 720, 765)))[0], r.choice((690, 720, 735)), r.choice((960, 990))
    shifts = [s for d in work if r.random() > 0.04 for s in ([1440 * d + start, 1440 * d + lunch], [1440 * d + lunch + 30, 1440 * d + end])]
    served = sorted(r.sample(sites, min(6, len(sites))))
    technicians.append({"id": f"T{i + 1:02}", "skills": ["laptop"] + [s for s in skills[1:] if r.random() < 0.6], "sites": served, "shifts": shifts})
# Nobody may stand where no one with that skill comes: each site gets one who knows all.
for i, site in enumerate(sites):
    t = technicians[i % len(technicians)]
    t["skills"] = list(skills)
    if site not in t["sites"]:
        t["sites"] = sorted(t["sites"] + [site])
depots = [{"id": f"K{i + 1}", "capacity": int(43 * o.swaps / 60 * 18 / 2), "daily": int(43 * o.swaps / len(work) / 2 * 1.6)} for i in range(2)]
swaps = []
for i in range(o.swaps):
    release = 1440 * r.choice(work[len(work) // 3: 2 * len(work) // 3]) if r.random() < 0.1 else 0
    windows = []
    for d in sorted(r.sample([d for d in work if 1440 * d >= release], r.randint(2, 5))):
        begin, length = r.choice(((450, 540), (450, 300), (690, 270), (720, 270), (450, 240)))
        windows.append([1440 * d + begin, 1440 * d + begin + length])
    unattended = r.choice((0, 30, 45, 60, 60, 75, 90, 120))
    swap = {
        "id": f"W{i + 1:05}", "site": r.choice(sites), "skills": [r.choices(skills, (62, 21, 12, 5))[0]], "weight": r.choices((1, 2, 3, 5, 9), (19, 31, 29, 16, 5))[0],
        "before": r.choices((15, 30, 45), (28, 66, 6))[0], "unattended": unattended, "after": r.choices((0, 15, 30), (15, 74, 11))[0], "slack": r.choice((15, 30, 30, 45)),
        "windows": windows, "release": release, "target": min(o.days - 1, r.randint(len(work) // 4, o.days - 4)),
    }
    if r.random() < 0.5:
        w = r.choice(windows)
        swap["preferred"] = [[w[0], w[0] + max(150, (w[1] - w[0]) // 2)]]
    if r.random() < 0.9:
        swap |= {"depot": r.choice(("K1", "K2")), "size": int(r.lognormvariate(3.4, 0.8)) + 1, "lead": r.randint(1, 3), "hold": r.choice((5, 7, 7, 14))}
    swaps.append(swap)
travel = [{"from": x, "to": y, "minutes": r.randrange(5, 60, 5)} for i, x in enumerate(sites) for y in sites[i + 1:] if r.random() < 0.95]
print(json.dumps({"name": f"generated-{o.swaps}-{o.seed}", "days": o.days, "grid": 15, "sites": [{"id": s, "benches": r.randint(2, 5)} for s in sites], "travel": travel, "technicians": technicians, "depots": depots, "swaps": swaps}))
