#!/usr/bin/env python3
"""People at their own pages: all open their link within a minute, then many want the same times at once. Bounded, and ends by itself.

Usage: people.py ADDRESS TOKEN REFRESH [PEOPLE]
Makes roster, technicians, plan and a link for each person; prints p50 and p95 in milliseconds of opening a link and reading the page,
each person on a device of their own, spread evenly over a minute; of asking for free times; and how many of those who wanted the same few
slots got one, which is checked against the appointments that stand in the end.
"""
import concurrent.futures, http.client, json, sys, threading, time
from urllib.parse import urlsplit

address, token, refresh = sys.argv[1:4]
people = int(sys.argv[4]) if len(sys.argv) > 4 else 2_000
host = urlsplit(address).netloc
minute = 60 if people >= 2_000 else people * 60 / 2_000
local = threading.local()


def ask(method, path, body=None, **headers):
    if not hasattr(local, "http"):
        local.http = http.client.HTTPConnection(host, timeout=120)
    send = body if isinstance(body, (bytes, type(None))) else json.dumps(body).encode()
    if send is not None and "Content-Type" not in headers:
        headers["Content-Type"] = "application/json"
    local.http.request(method, path, send, headers)
    answer = local.http.getresponse()
    text = answer.read()
    return answer.status, (json.loads(text) if text[:1] in b"{[" and text else None), answer.headers


def lead(method, path, body=None, **headers):
    status, seen, head = ask(method, path, body, Authorization=f"Bearer {token}", **headers)
    if status >= 300:
        raise SystemExit(f"{method} {path}: {status} {seen}")
    return seen, head


def p(times, part):
    times = sorted(times)
    return times[min(len(times) - 1, int(len(times) * part))] * 1000


sites = [f"Site {i}" for i in range(8)]
for site in sites:
    lead("PUT", f"/api/refreshes/{refresh}/sites/{site.replace(' ', '%20')}", {"name": site, "benches": 6})
for t in range(24):
    lead("PUT", f"/api/refreshes/{refresh}/technicians/t{t:02}", {"name": f"Technician {t:02}", "sites": [sites[t % 8]], "shifts": ["daily 08:00-12:00", "daily 12:45-17:00"]})
rows = ["person,name,site,kind,old_tag,new_tag"] + [f"p{i},Person {i:05},{sites[i % 8]},renew,O-{i},N-{i}" for i in range(people)]
lead("POST", f"/api/refreshes/{refresh}/roster", "\n".join(rows).encode(), **{"Content-Type": "text/csv"})
draft, _ = lead("POST", f"/api/refreshes/{refresh}/plan", {"steps": 0})
lead("POST", f"/api/refreshes/{refresh}/plan/publication", None, **{"If-Match": f'"{draft["version"]}"', "Content-Length": "0"})
with concurrent.futures.ThreadPoolExecutor(8) as pool:
    secrets = list(pool.map(lambda i: lead("POST", f"/api/swaps/{refresh}-{i + 1:04}/person-links", {})[0]["address"].split("#")[1], range(people)))

opened, read, cookies = [], [], [None] * people
start = time.perf_counter() + 0.5


def visit(i):
    time.sleep(max(0, start + i * minute / people - time.perf_counter()))
    begin = time.perf_counter()
    status, _, head = ask("POST", "/api/person/session", {"secret": secrets[i]})
    opened.append(time.perf_counter() - begin)
    assert status == 204, status
    cookies[i] = head["Set-Cookie"].split(";")[0]
    begin = time.perf_counter()
    status, page, _ = ask("GET", "/api/person", Cookie=cookies[i])
    read.append(time.perf_counter() - begin)
    assert status == 200 and page["name"] == f"Person {i:05}", (status, page)


with concurrent.futures.ThreadPoolExecutor(64) as pool:
    list(pool.map(visit, range(people)))
print(f"{people} people open their link within {minute:.0f} s: {p(opened, 0.5):.1f} ms, 95 of 100 within {p(opened, 0.95):.1f} ms (200 ms wanted)", flush=True)
print(f"their page: {p(read, 0.5):.1f} ms, 95 of 100 within {p(read, 0.95):.1f} ms (200 ms wanted)", flush=True)

asked, got = [], []
wanted = min(40, people)


def choose(i):
    begin = time.perf_counter()
    status, free, _ = ask("GET", "/api/person/slots", Cookie=cookies[i])
    asked.append(time.perf_counter() - begin)
    assert status == 200, free
    # Everybody takes the first that is offered: the same one, for many.
    first = next((s["start"] for s in free["slots"] if not s["isOwn"]), None)
    if first:
        status, seen, _ = ask("PUT", "/api/person/slot", {"start": first}, Cookie=cookies[i])
        assert status in (200, 409), (status, seen)
        got.append(status == 200)


# People who have the last appointments want earlier ones, all at once.
with concurrent.futures.ThreadPoolExecutor(16) as pool:
    list(pool.map(choose, range(people - wanted, people)))
print(f"free times while {wanted} choose at once: {p(asked, 0.5):.1f} ms, 95 of 100 within {p(asked, 0.95):.1f} ms; {sum(got)} got the one they wanted, {len(got) - sum(got)} were told that somebody was faster", flush=True)
hands = {}
cursor = ""
while True:
    page, _ = lead("GET", f"/api/refreshes/{refresh}/swaps?limit=500&cursor={cursor}")
    for s in page["items"]:
        if s["appointment"]:
            a = s["appointment"]
            hands.setdefault(a["technician"], []).extend([(a["start"], a["handsOnUntil"], s["id"]), (a["finish"], a["end"], s["id"])])
    cursor = page["next"]
    if not cursor:
        break
twice = 0
for parts in hands.values():
    parts.sort()
    twice += sum(1 for one, next_ in zip(parts, parts[1:]) if next_[0] < one[1] and one[0] != one[1])
print(f"hands-on parts given twice: {twice} (0 wanted)", flush=True)
sys.exit(1 if twice else 0)
