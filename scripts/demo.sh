#!/usr/bin/env bash
# The Kestrel Bay Ferries demo. Usage: scripts/demo.sh [--fresh] [--port N] [--state DIR] | --once [--input DIR]
#   (nothing)        builds, starts service, cloud share and hands, and serves until Ctrl-C; a second start goes on from there
#   --fresh          throws the demo's state away first
#   --once           runs the whole example without a browser, prints the account of each swap, exits 0 only if every file is accounted for
#   --input DIR      with --once: DIR is one person's old computer (it is only read)
source "$(dirname "$0")/lib.sh"

once=false fresh=false input="" port=8420 state="$root/demo-state"
while [ $# -gt 0 ]; do
  case "$1" in
    --once) once=true ;;
    --fresh) fresh=true ;;
    --input) input=$(cd "${2:?--input needs a folder}" && pwd) || exit 2; shift ;;
    --port) port=${2:?--port needs a number}; shift ;;
    --state) state=$(realpath -m "${2:?--state needs a folder}"); shift ;;
    *) say "demo.sh: '$1' is not known. See the top of scripts/demo.sh."; exit 2 ;;
  esac
  shift
done
need "/usr/lib/$(uname -m)-linux-gnu/libicuuc.so.72=libicu72" /usr/share/fonts/truetype/dejavu/DejaVuSans.ttf=fonts-dejavu-core curl=curl python3=python3
# A test that has just built everything says so.
[ -n "${YARD_BUILT:-}" ] || scripts/build.sh

if $once; then
  state=$(mktemp -d "${TMPDIR:-/tmp}/yard-once.XXXXXX")
  port=$(free_port)
elif $fresh && [ -d "$state" ]; then
  [ -f "$state/.yard-demo" ] || { say "$state is no demo state; it is left alone."; exit 2; }
  rm -rf "$state"
fi
mkdir -p "$state"; touch "$state/.yard-demo"

bin="$root/out/bin" pids=()
stop() {
  local pid
  for pid in "${pids[@]}"; do kill -TERM "$pid" 2>/dev/null || true; done
  for pid in "${pids[@]}"; do wait "$pid" 2>/dev/null || true; done
  if $once; then rm -rf "$state"; fi
}
trap stop EXIT
trap 'exit 130' INT TERM

export YARDLINE_CONFIG="$state/connection.json"
export YARD_PASSWORD=kestrel-bay-ferries YARD_NEW_PASSWORD=kestrel-bay-ferries
service="http://127.0.0.1:$port" refresh=autumn
roster="$root/demo/kestrel-bay/roster.csv"
line() { "$bin/yardline" "$@"; }

# The demo day is always a working morning: a zone is chosen in which it is between nine and ten now.
if [ ! -f "$state/zone" ]; then
  shift_hours=$(( 9 - 10#$(date -u +%H) ))
  [ $shift_hours -gt 14 ] && shift_hours=$((shift_hours - 24)); [ $shift_hours -lt -12 ] && shift_hours=$((shift_hours + 24))
  if [ $shift_hours -ge 0 ]; then echo "Etc/GMT-$shift_hours"; else echo "Etc/GMT+$(( -shift_hours ))"; fi > "$state/zone"
  TZ=$(cat "$state/zone") date +%F > "$state/starts"
fi
export TZ; TZ=$(cat "$state/zone")

delay=0 scale=0.4
$once || { delay=60; scale=1; }
"$bin/yardstand" computers --roster "$roster" --folder "$state/computers" --scale $scale >"$state/computers.log"
cloud_port_file="$state/cloud.port"; [ -f "$cloud_port_file" ] || free_port > "$cloud_port_file"
"$bin/yardstand" cloud --folder "$state/cloud" --port "$(cat "$cloud_port_file")" --delay-ms $delay --quota-bytes 20000000000 >"$state/cloud.log" 2>&1 & pids+=($!)
mail_port_file="$state/mail.port"; [ -f "$mail_port_file" ] || free_port > "$mail_port_file"
identity=()
if ! $once; then
  identity_port_file="$state/identity.port"; [ -f "$identity_port_file" ] || free_port > "$identity_port_file"
  export YARD_IDENTITY_SECRET=between-the-two YARD_ORGANISATION_SECRET=between-the-two
  identity=(--organisation "http://127.0.0.1:$(cat "$identity_port_file")" --organisation-name "Kestrel Bay Ferries")
fi
YARD_FIRST=kit:kestrel-bay-ferries "$bin/yardrelay" --urls "$service" --state "$state/service" --address "$service" --mail "smtp+plain://127.0.0.1:$(cat "$mail_port_file")" --mail-from refresh@kestrelbay.example "${identity[@]}" >"$state/service.log" 2>&1 & pids+=($!)
$once || { "$bin/yardstand" identity --port "$(cat "$identity_port_file")" --person ines.moreau@kestrelbay.example jonas.reed@kestrelbay.example ana.petrov@kestrelbay.example --group "ines.moreau@kestrelbay.example=Refresh leads" "jonas.reed@kestrelbay.example=Quay desk" --second ines.moreau@kestrelbay.example >"$state/identity.log" 2>&1 & pids+=($!); }
$once || { "$bin/yardstand" mail --folder "$state/mail" --port "$(cat "$mail_port_file")" --refuse greta.holm@kestrelbay.example >"$state/mail.log" 2>&1 & pids+=($!); }
# Ready means that the database answers; a slow machine may take its time for that, but not for ever.
ready() { curl -fs "$service/health/ready" >/dev/null 2>&1; }
for tenth in $(seq 900); do
  ready && break
  kill -0 "${pids[1]}" 2>/dev/null || { say "The service did not start:"; tail -5 "$state/service.log"; exit 3; }
  [ "$tenth" != 50 ] || say "Waiting until the service has made its database and answers at $service/health/ready"
  sleep 0.1
done
ready || { say "The service did not become ready within 90 seconds:"; tail -5 "$state/service.log"; exit 3; }

if [ ! -f "$state/ready" ]; then
  say "Making the demo in $state"
  line sign-in "$service" --name kit --refresh $refresh
  line refresh make $refresh --name "Autumn refresh at Kestrel Bay" --starts "$(cat "$state/starts")" --days 6 --zone "$TZ"
  line depot set cloud --name "Cloud share" --address "http://127.0.0.1:$(cat "$cloud_port_file")/"
  line account set kit --name "Kit Rowan" --role coordinator
  line roster take "$roster" --dry-run | tail -1
  line roster take "$roster" | tail -1
  line technician set noor --name "Noor Haddad" --site "North Quay" "Workshop" --shift "daily 08:00-12:00" "daily 12:45-16:30"
  line technician set theo --name "Theo Brandt" --site "Lantern Point" --shift "daily 08:00-12:30" "daily 13:15-16:30"
  line technician set vera --name "Vera Lindqvist" --site "Workshop" "Lantern Point" "North Quay" --shift "daily 09:00-12:00" "daily 12:45-17:00"
  line way set "North Quay" "Lantern Point" 25
  line way set "North Quay" Workshop 15
  line way set Workshop "Lantern Point" 20
  line depot set cloud --name "Cloud share" --address "http://127.0.0.1:$(cat "$cloud_port_file")/" --room-gb 600 --daily-gb 320
  line depot set store --name "Yard store" --address built-in
  if ! $once; then
    day() { date -d "$(cat "$state/starts") + $1 days" +%F; }
    line site set Workshop --name Workshop --room "Engine hall:2" "Drawing office:1"
    line closure set stocktaking --name "Stocktaking in the engine hall" --site Workshop --at "$(day 2)"
    line spare set KB-2098 --site "North Quay" --model "Gannet 14"
    line spare set KB-2099 --site Workshop --model "Gannet 14"
    line delivery set second --name "Second batch" --arrives "$(day 1) 12:00" --tag KB-2060 KB-2061 KB-2062
    line places set "$root/demo/kestrel-bay/places.yaml"
    line catalogue set berth --program "Berth Planner*" --offer "Berth Planner 7" --where "program shop, under Quays" --licence-bound
    line catalogue set office --program "*Office*" --offer "Office suite, comes with the computer"
    line catalogue set rota --program "Rota Desk" --offer "Rota Desk on the web" --where "https://rota.kestrelbay.example"
    line catalogue set charts --program "Quay Charts*" --offer "Quay Charts 4" --where "ask the workshop for the licence" --licence-bound
    line estimate set kind issue --bench 20 --bench-unattended 60 --bench-site Workshop --bench-gap 60
    line account set noor --name "Noor Haddad" --role technician --site "North Quay" "Workshop"
    line account set theo --name "Theo Brandt" --role technician --site "Lantern Point"
    line account set vera --name "Vera Lindqvist" --role technician --site "Workshop" "Lantern Point" "North Quay"
    line account set audit --name "Wren Ashby" --role auditor
    line staff-group set "Refresh leads" --role coordinator
    line staff-group set "Quay desk" --role technician --site "North Quay"
    line account set sol --name "Sol Okafor" --role person --person kb101
  fi
  line plan make | tail -2
  line plan publish
  $once || line notice on
  if ! $once; then
    # One morning later somebody is ill: a draft that repairs the plan waits to be looked at.
    line swap edit autumn-0022 --free "$(day 1) 08:00-08:45"
    line technician away vera "$(day 1)"
    line plan make | tail -2
  fi
  line hand code --json > "$state/codes.json"
  "$bin/yardhand" enrol-bench --service "$service" --codes "$state/codes.json" --disks "$state/computers" --state "$state/hands"
  rm -f "$state/codes.json"
  touch "$state/ready"
else
  line sign-in "$service" --name kit --refresh $refresh >/dev/null
fi

if [ -n "$input" ]; then
  # One person's old computer is the folder that was given: the hand of KB-1180 works there.
  sed -i "s#\"root\": \".*\"#\"root\": \"$input\"#" "$state/hands/KB-1180/hand.json"
fi
# shellcheck disable=SC2046
"$bin/yardhand" work $(for hand in "$state"/hands/*/; do printf -- '--state %s ' "$hand"; done) >"$state/hands.log" 2>&1 & pids+=($!)

# Waits until no order is waiting or under way, at most so many seconds.
settle() { line swap wait --seconds "$1"; }
# Waives what cannot be carried, with a reason: a named pipe has no content.
waive() {
  line snag list --kind pipe --ids | { grep "^${2:-}" || true; } | while read -r swap snag; do line snag waive "$swap" "$snag" --reason "$1"; done
}

# The rest of a checklist, as a technician would work it.
work_steps() {
  line step set "$1" told noted ready unwanted-off programs-closed licences-out swapped connected one-library mail desktop backup looked
  line step set "$1" updates cleared --ran
  line step set "$1" updates cleared
  line step set "$1" power --answer desk
  line step set "$1" maintenance --answer "every quarter"
  line step set "$1" screens --answer 1
  line step set "$1" printer --answer prints
  line step set "$1" prepared restarted opened --started
  line step set "$1" prepared restarted opened
}

if $once; then
  if [ -n "$input" ]; then only="autumn-0001"; else only="--all"; fi
  say ""; say "Surveys, first trips, verification"
  line swap order survey $only | tail -1; settle 30
  line swap order first-trip $only | tail -1; settle 60
  waive "A print queue's pipe has no content to carry."
  say ""; say "Restore to the new computers"
  line swap order restore $only | tail -1; settle 60
  id=autumn-0001
  say ""; say "The checklist of one swap, worked and signed off"
  if line swap sign-off $id; then say "signed off too early"; exit 1; fi
  work_steps $id | tail -1
  if line step set $id old-tag --tag KB-9999; then say "a wrong computer was accepted"; exit 1; fi
  line step set $id old-tag --tag KB-1180
  line step set $id new-tag --tag KB-2040
  signed=0; line swap sign-off $id || signed=1
  if [ $signed = 0 ]; then
    line step set $id signed-out handed-in
    line swap sign-off $id --as coordinator
  fi
  say ""; say "The account of each swap"
  code=0
  line report accounts || code=1
  line ledger check || code=1
  [ $signed = 0 ] || code=1
  [ $code = 0 ] && say "Outcome: every file is accounted for." || say "Outcome: NOT every file is accounted for."
  exit $code
fi

say ""
say "Yard Relay with the Kestrel Bay Ferries demo:  $service"
say "  coordinator  kit    password kestrel-bay-ferries"
say "  technician   noor, theo, vera   (same password)"
say "  auditor      audit  (same password)"
say "  person       sol    (same password)"
say "  or with Kestrel Bay Ferries, its (simulated) identity provider: Ines Moreau leads, Jonas Reed works at North Quay"
say "  their own pages, each on the first device that opens it (a private window: where you are signed in, none opens):"
for id in autumn-0003 autumn-0009; do say "               $(line person link $id --hand-over | head -1)  $(line swap show $id --json | python3 -c 'import json, sys; print(json.load(sys.stdin)["swap"]["name"])')"; done
say "Mails to the staff go no further than $state/mail; 'yardline notice told' says who was told what."
say "State: $state (thrown away by --fresh). Logs beside it. Ctrl-C stops."

# The yard lives: surveys and first trips at once, then restores and steps, so that something is always on its way.
live() {
  if [ ! -f "$state/begun" ]; then
    line swap order survey --all || true; settle 120
    line swap order first-trip autumn-0001 autumn-0002 autumn-0003 autumn-0004 autumn-0005 autumn-0007 autumn-0008 || true; settle 240
    waive "A print queue's pipe has no content to carry." autumn-0001
    line swap order restore autumn-0001 autumn-0002 autumn-0003 || true; settle 120
    work_steps autumn-0001 || true
    line step set autumn-0001 old-tag --tag KB-1180 || true
    line step set autumn-0001 new-tag --tag KB-2040 || true
    line swap sign-off autumn-0001 --as person --name "$(line swap show autumn-0001 --json | python3 -c 'import json, sys; print(json.load(sys.stdin)["swap"]["name"])')" || true
    line swap sign-off autumn-0001 || true
    # What is left of it: its old computer on the way to its end, something that could not be settled at the desk.
    line old hold 10 || true
    line old take KB-1180 --by "Noor Haddad" || true
    line old put KB-1180 --at "Workshop, shelf 3" || true
    line old put KB-1181 --at "Workshop, shelf 3" || true
    line old load KB-1180 --pallet P-07 || true
    line follow-up open autumn-0001 "Label printer at the counter prints blank labels" --for noor --come-back 30 || true
    line detour call-off autumn-0018 --why "Her desk moves to the new terminal in spring" || true
    line follow-up open autumn-0003 "Asks for a second screen; ask the office whether one is free" --for vera --holds wipe || true
    line swap hand-over autumn-0005 --to vera --note "Restore runs until three. The counter must stay open, ask for the key at the desk." || true
    line step set autumn-0002 told ready programs-closed swapped || true
    line step set autumn-0002 old-tag --tag KB-1181 || true
    line step set autumn-0002 new-tag --tag KB-2041 || true
    for n in 03 04 05 06 08 09 10 11 12 14 16 18 19 20 21 23 25; do line step set autumn-00$n told || true; done
    touch "$state/begun"
  fi
  local n=8
  while true; do
    for _ in 1 2 3; do
      n=$((n % 26 + 1)); local id; id=$(printf 'autumn-%04d' $n)
      line swap order first-trip "$id" | grep -q '^1 ' || line swap order top-up-trip "$id" >/dev/null || true
    done
    sleep 12
  done
}
live >"$state/live.log" 2>&1 & pids+=($!)
wait "${pids[1]}"
