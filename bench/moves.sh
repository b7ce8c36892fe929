#!/usr/bin/env bash
# How long the service takes to answer a move by hand at 2,000 swaps: a trial (while dragging) and a move that is kept. Usage: bench/moves.sh
source "$(dirname "$0")/../scripts/lib.sh"
work=$(mktemp -d "${TMPDIR:-/tmp}/yard-moves.XXXXXX"); port=$(free_port); pids=()
trap 'for p in "${pids[@]}"; do kill "$p" 2>/dev/null || true; done; rm -rf "$work"' EXIT
out/bin/yardrelay --urls "http://127.0.0.1:$port" --state "$work/state" --first kit:kestrel-bay-ferries --log Error >/dev/null 2>&1 & pids+=($!)
for _ in $(seq 100); do curl -fs "http://127.0.0.1:$port/health/ready" >/dev/null 2>&1 && break; sleep 0.1; done
export YARDLINE_CONFIG="$work/connection.json" YARD_PASSWORD=kestrel-bay-ferries
line() { out/bin/yardline "$@" >/dev/null; }
line sign-in "http://127.0.0.1:$port" --name kit --refresh big
line refresh make big --name Big --starts "$(date -d '+3 days' +%F)" --days 42
{ echo person,name,site,kind,old_tag,new_tag; for i in $(seq 2000); do echo "p$i,Person $i,Site $((i % 14)),renew,O-$i,N-$i"; done; } > "$work/roster.csv"
line roster take "$work/roster.csv"
for i in $(seq 0 13); do line technician set "t$i" --name "Technician $i" --site "Site $i" "Site $(((i + 1) % 14))" "Site $(((i + 5) % 14))"; done
line plan make --steps 0
token=$(python3 -c 'import json,sys; print(json.load(open(sys.argv[1]))["token"])' "$YARDLINE_CONFIG" 2>/dev/null || python3 -c 'import json,sys; d=json.load(open(sys.argv[1])); print(d.get("token") or d.get("Token"))' "$YARDLINE_CONFIG")
python3 - "http://127.0.0.1:$port" "$token" <<'PY'
import datetime, http.client, json, statistics, sys, time, urllib.parse
base = urllib.parse.urlparse(sys.argv[1])
c = http.client.HTTPConnection(base.hostname, base.port)
def call(method, path, body=None, version=None):
    headers = {"Authorization": "Bearer " + sys.argv[2], "Content-Type": "application/json"}
    if version is not None: headers["If-Match"] = f'"{version}"'
    begun = time.perf_counter()
    c.request(method, path, json.dumps(body) if body is not None else None, headers)
    answer = c.getresponse(); text = answer.read()
    return 1000 * (time.perf_counter() - begun), answer.status, json.loads(text or b"{}")
_, _, plan = call("GET", "/api/refreshes/big/plan")
visits, version = plan["appointments"], plan["version"]
trials, moves = [], []
last = max(datetime.datetime.fromisoformat(v["start"]) for v in visits).replace(hour=8, minute=0)
for i in range(200):
    v, to = visits[i * 7 % len(visits)], visits[(i * 31 + 5) % len(visits)]
    ms, status, _ = call("POST", "/api/refreshes/big/plan/draft/trials", {"swap": v["swap"], "technician": v["technician"], "start": to["start"], "isBench": False})
    assert status == 200, status
    trials.append(ms)
for i in range(2000):
    if len(moves) == 60: break
    v = visits[i * 11 % len(visits)]
    wanted = {"swap": v["swap"], "technician": v["technician"], "start": (last + datetime.timedelta(days=3 + i % 5, hours=1, minutes=15 * (i % 24))).isoformat(), "isBench": False}
    tried = call("POST", "/api/refreshes/big/plan/draft/trials", wanted)[2]
    if not tried["isAllowed"] or wanted["start"] == v["start"]: continue
    ms, status, seen = call("POST", "/api/refreshes/big/plan/draft/moves", wanted, version)
    assert status == 200 and seen["isAllowed"] and seen["version"] == version + 1, (status, seen)
    version = seen["version"]
    moves.append(ms)
assert len(moves) == 60, len(moves)
print(f"moving one visit by hand, {len(visits)} appointments: a trial answers in {statistics.median(trials):.1f} ms (95 of 100 within {sorted(trials)[189]:.1f}), a move in {statistics.median(moves):.1f} ms (95 of 100 within {sorted(moves)[56]:.1f}) (within 50)")
PY
