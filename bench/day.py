#!/usr/bin/env python3
"""The day of a large refresh through a running service: 20,000 swaps, 60 technicians. Bounded, and ends by itself.

Usage: day.py ADDRESS TOKEN REFRESH [SWAPS] [STREAMS]
Makes roster, technicians and plan, then prints p50 and p95 in milliseconds of: today, the yard, a round, who is ready, a step written while
50 technicians are at work (each one step every two seconds or so), and a step until another stream has it, with so many streams open.
"""
import asyncio, http.client, json, random, sys, threading, time
from urllib.parse import urlsplit

address, token, refresh = sys.argv[1:4]
swaps = int(sys.argv[4]) if len(sys.argv) > 4 else 20_000
streams = int(sys.argv[5]) if len(sys.argv) > 5 else 500
host = urlsplit(address).netloc
r = random.Random(1)


class Caller:
    def __init__(self):
        self.http = http.client.HTTPConnection(host, timeout=120)

    def ask(self, method, path, body=None, **headers):
        send = body if isinstance(body, (bytes, type(None))) else json.dumps(body).encode()
        head = {"Authorization": f"Bearer {token}", **headers}
        if send is not None and "Content-Type" not in head:
            head["Content-Type"] = "application/json"
        self.http.request(method, path, send, head)
        answer = self.http.getresponse()
        text = answer.read()
        if answer.status >= 300 and answer.status != 412:
            raise SystemExit(f"{method} {path}: {answer.status} {text[:400]!r}")
        return answer.status, (json.loads(text) if text[:1] in (b"{", b"[") else None), answer.headers


def p(times, part):
    times = sorted(times)
    return times[min(len(times) - 1, int(len(times) * part))] * 1000


def say(what, times, wanted):
    print(f"{what}: {p(times, 0.5):.1f} ms, 95 of 100 within {p(times, 0.95):.1f} ms ({wanted} wanted)", flush=True)


def timed(work):
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


kit = Caller()
sites = [f"Site {i:02}" for i in range(20)]
for site in sites:
    kit.ask("PUT", f"/api/refreshes/{refresh}/sites/{site.replace(' ', '%20')}", {"name": site, "benches": 12})
for t in range(60):
    kit.ask("PUT", f"/api/refreshes/{refresh}/technicians/t{t:02}", {"name": f"Technician {t:02}", "sites": [sites[t % 20], sites[(t * 7 + 3) % 20]], "shifts": ["daily 08:00-12:00", "daily 12:45-17:00"]})
rows = ["person,name,site,kind,old_tag,new_tag"] + [f"p{i},Person {i:05},{sites[i % 20]},renew,O-{i},N-{i}" for i in range(swaps)]
kit.ask("POST", f"/api/refreshes/{refresh}/roster", "\n".join(rows).encode(), **{"Content-Type": "text/csv"})
_, draft, head = kit.ask("POST", f"/api/refreshes/{refresh}/plan", {"steps": 0})
kit.ask("POST", f"/api/refreshes/{refresh}/plan/publication", None, **{"If-Match": f'"{draft["version"]}"', "Content-Length": "0"})
print(f"{swaps} swaps, {len(draft['appointments']) if 'appointments' in draft else '?'} appointments", flush=True)

for what, path, wanted in [("today", "today", "100 ms"), ("the yard", "yard", "100 ms"), ("a technician's round", "round?technician=t00", "100 ms"), ("who is ready tomorrow", "ready", "400 ms")]:
    # Asked before, as in any service that has run for a while: what is measured is not the runtime compiling, nor the database's first look at what was loaded.
    for _ in range(40):
        kit.ask("GET", f"/api/refreshes/{refresh}/{path}")
    say(what, [timed(lambda: kit.ask("GET", f"/api/refreshes/{refresh}/{path}")) for _ in range(40)], wanted)

steps = ["told", "ready", "unwanted-off"]


def write(caller, swap, version, step):
    return caller.ask("PUT", f"/api/swaps/{swap}/checklist/steps/{step}", {"claim": "ticked"}, **{"If-Match": f'"{version}"'})


def at_work(number, times, until):
    caller, mine = Caller(), random.Random(number)
    for i in range(number, swaps, 50):
        swap = f"{refresh}-{i + 1:04}"
        version = 0
        for step in steps:
            time.sleep(mine.random() * 4)
            if time.perf_counter() > until:
                return
            start = time.perf_counter()
            status, seen, _ = write(caller, swap, version, step)
            times.append(time.perf_counter() - start)
            if status == 412:
                version = caller.ask("GET", f"/api/swaps/{swap}")[1]["checklist"]["version"]
            else:
                version = seen["version"]


times, until = [], time.perf_counter() + 20
workers = [threading.Thread(target=at_work, args=(n, times, until)) for n in range(50)]
for w in workers:
    w.start()
for w in workers:
    w.join()
say(f"a step written, {len(times)} by 50 technicians in 20 s", times, "30 ms")


# Streams have a bound: 12 of a session, 60 of an account.
tokens = []
for n in range(-(-streams // 60)):
    name, word = f"watch-{n}", "five hundred kestrels"
    kit.ask("PUT", f"/api/accounts/{name}", {"shown": name, "role": "auditor", "password": word, "sites": [], "refreshes": []})
    tokens += [kit.ask("POST", "/api/tokens", {"name": name, "password": word, "label": "bench"})[1]["token"] for _ in range(5)]


async def live():
    seen, ready = {}, 0

    async def listen(n):
        nonlocal ready
        reader, writer = await asyncio.open_connection(*host.split(":"))
        writer.write(f"GET /api/refreshes/{refresh}/events HTTP/1.1\r\nHost: {host}\r\nAuthorization: Bearer {tokens[n // 12]}\r\nAccept: text/event-stream\r\n\r\n".encode())
        await writer.drain()
        await reader.readuntil(b"\r\n\r\n")
        ready += 1
        while True:
            line = await reader.readline()
            if not line:
                return
            if line.startswith(b"id:"):
                seen.setdefault(int(line[3:]), []).append(time.perf_counter())

    listening = [asyncio.create_task(listen(n)) for n in range(streams)]
    for _ in range(300):
        if ready == streams:
            break
        await asyncio.sleep(0.1)
    loop, caller, first, last = asyncio.get_running_loop(), Caller(), [], []
    base = swaps // 2
    for i in range(25):
        seen.clear()
        start = time.perf_counter()
        await loop.run_in_executor(None, write, caller, f"{refresh}-{base + i * 50 + 30:04}", caller.ask("GET", f"/api/swaps/{refresh}-{base + i * 50 + 30:04}")[1]["checklist"]["version"], "power" if False else "ready")
        start = min(start, time.perf_counter())
        for _ in range(200):
            if seen and max(len(v) for v in seen.values()) >= ready:
                break
            await asyncio.sleep(0.01)
        when = [t - start for v in seen.values() for t in v]
        if when:
            first.append(min(when))
            last.extend(when)
    for l in listening:
        l.cancel()
    say(f"a step until another stream has it, {ready} streams open", last, "500 ms")


asyncio.run(live())
