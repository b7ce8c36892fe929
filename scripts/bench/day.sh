# The day of a large refresh: 20,000 swaps, 60 technicians, on SQLite and on PostgreSQL.
day_swaps=20000; small && day_swaps=2000
pg=/usr/lib/postgresql/15/bin
# A zone in which it is seven in the morning: at any hour all of the first day is still to come, and none of it passes while it is planned.
ahead=$((7 - 10#$(date -u +%H))); [ $ahead -ge -12 ] || ahead=$((ahead + 24))
zone=Etc/GMT$([ $ahead -ge 0 ] && echo - || echo +)${ahead#-}
day() { # what, options of the service for its database
  local what=$1 port token service; shift
  port=$(free_port); dotnet out/app/Service/yardrelay.dll --urls "http://127.0.0.1:$port" --state "$shm/day" --first kit:kestrel-bay-ferries --log Warning "$@" >"$work/day.log" 2>&1 & service=$!; pids+=($service)
  until curl -fs "http://127.0.0.1:$port/health/ready" >/dev/null 2>&1; do sleep 0.1; done
  export YARDLINE_CONFIG="$work/day.json" YARD_PASSWORD=kestrel-bay-ferries
  out/bin/yardline sign-in "http://127.0.0.1:$port" --name kit --refresh day >/dev/null
  out/bin/yardline refresh make day --name "Large" --starts "$(date -u -d "$ahead hours" +%F)" --days 60 --zone "$zone" >/dev/null
  token=$(python3 -c 'import json, sys; print(json.load(open(sys.argv[1]))["token"])' "$YARDLINE_CONFIG")
  say "$what:"
  python3 bench/day.py "http://127.0.0.1:$port" "$token" day "$day_swaps" 500
  sleep 65
  say "memory of the service: $(awk '/VmRSS/ {printf "%d", $2/1000}' "/proc/$service/status") MB (500 MB wanted)"
  kill $service; wait $service 2>/dev/null || true; rm -rf "$shm/day"
}
day SQLite
mkdir "$shm/pg"; as=(); [ "$(id -u)" != 0 ] || { chown postgres "$shm" "$shm/pg"; as=(setpriv --reuid postgres --regid postgres --clear-groups); }
"${as[@]}" $pg/initdb -D "$shm/pg" -U yard -A trust >/dev/null
pgport=$(free_port); "${as[@]}" $pg/postgres -D "$shm/pg" -h 127.0.0.1 -p "$pgport" -k "" >"$work/pg.log" 2>&1 & pids+=($!)
until "${as[@]}" $pg/pg_isready -q -h 127.0.0.1 -p "$pgport"; do sleep 0.1; done
day PostgreSQL --database "Host=127.0.0.1;Port=$pgport;Username=yard;Database=yard"
