#!/usr/bin/env python3
"""The morning after: python3 bench/sick-day.py INSTANCE PLAN > instance.json. Everything in the plan was promised, and the technician with the fullest day is away on it."""
import collections, json, sys

instance, plan = (json.load(open(f)) for f in sys.argv[1:3])
placed = {p["id"]: p for p in plan["placed"]}
(away, day), _ = collections.Counter((p["technician"], p["start"] // 1440) for p in placed.values()).most_common(1)[0]
for swap in instance["swaps"]:
    swap.pop("published", None)
    if p := placed.get(swap["id"]):
        swap["published"] = {"start": p["start"], "technician": p["technician"]}
for technician in instance["technicians"]:
    if technician["id"] == away:
        technician["shifts"] = [s for s in technician["shifts"] if s[0] // 1440 != day]
print(json.dumps(instance))
