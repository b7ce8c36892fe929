# 2,000 people open their own pages within a minute, and some want the same times.
people=2000; small && people=200
port=$(free_port); dotnet out/app/Service/yardrelay.dll --urls "http://127.0.0.1:$port" --state "$shm/people" --first kit:kestrel-bay-ferries --log Warning >"$work/people.log" 2>&1 & service=$!; pids+=($service)
until curl -fs "http://127.0.0.1:$port/health/ready" >/dev/null 2>&1; do sleep 0.1; done
(
  export YARDLINE_CONFIG="$work/people.json" YARD_PASSWORD=kestrel-bay-ferries
  out/bin/yardline sign-in "http://127.0.0.1:$port" --name kit --refresh people >/dev/null
  out/bin/yardline refresh make people --name "Many" --starts "$(date -u -d '+3 days' +%F)" --days 40 >/dev/null
  python3 bench/people.py "http://127.0.0.1:$port" "$(python3 -c 'import json, sys; print(json.load(open(sys.argv[1]))["token"])' "$YARDLINE_CONFIG")" people "$people"
)
kill $service; wait $service 2>/dev/null || true; rm -rf "$shm/people"
