# The technician's view in Chromium, its CPU slowed four times: first load of the round, taps on a checklist.
need /usr/bin/chromium=chromium
port=$(free_port); YARD_PASSWORD=kestrel-bay-ferries out/bin/yardrelay --urls "http://127.0.0.1:$port" --state "$work/desk" --first kit:kestrel-bay-ferries --log Error >/dev/null 2>&1 & pids+=($!)
until curl -fs "http://127.0.0.1:$port/health/ready" >/dev/null 2>&1; do sleep 0.1; done
(
  export YARDLINE_CONFIG="$work/desk.json" YARD_PASSWORD=kestrel-bay-ferries YARD_NEW_PASSWORD=kestrel-bay-ferries
  hours=$(( 9 - 10#$(date -u +%H) )); zone="Etc/GMT$([ $hours -ge 0 ] && echo "-$hours" || echo "+$(( -hours ))")"
  line() { out/bin/yardline "$@" >/dev/null; }
  line sign-in "http://127.0.0.1:$port" --name kit --refresh autumn
  line refresh make autumn --name "Autumn" --starts "$(TZ=$zone date +%F)" --days 4 --zone "$zone"
  line roster take demo/kestrel-bay/roster.csv
  line technician set noor --name "Noor Haddad" --site "North Quay" "Workshop" "Lantern Point" --shift "daily 07:00-20:00"
  line account set noor --name "Noor Haddad" --role technician --site "North Quay" "Workshop" "Lantern Point"
  line plan make --steps 2000; line plan publish
  node bench/desk.mjs "http://127.0.0.1:$port" noor autumn-0002 autumn-0003 autumn-0004 autumn-0005 autumn-0007
)
