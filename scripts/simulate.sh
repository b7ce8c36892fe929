#!/usr/bin/env bash
# Lives of parcels from seeds: trips, verifications, restores, damage and waiting in an order that the seed gives, on disks in memory, while programs are killed,
# power goes, media fail and fill up. After each step what was promised is held against what is there. docs/reliability.md says what was counted.
# Usage: scripts/simulate.sh [--seeds N, 300 by default] [--from SEED, 1 by default] [--hours H: as many as fit]
# A seed that breaks a promise is told with the fewest steps that still break it; YARD_SEEDS=SEED..SEED runs it alone.
source "$(dirname "$0")/lib.sh"
seeds=300 from=1 hours=""
while [ $# -gt 0 ]; do
  case "$1" in
    --seeds) seeds=${2:?--seeds takes a number} ; shift ;;
    --from) from=${2:?--from takes a seed} ; shift ;;
    --hours) hours=${2:?--hours takes a number} ; shift ;;
    *) say "simulate.sh: '$1' is not known. See its top."; exit 2 ;;
  esac
  shift
done
for number in "$seeds" "$from" "${hours:-1}"; do
  [[ "$number" =~ ^[0-9]+$ ]] && [ "$number" -gt 0 ] || { say "simulate.sh: '$number' is no number above 0."; exit 2; }
done
[ -n "${YARD_BUILT:-}" ] || scripts/build.sh --checked
program=out/artifacts/bin/Carriage.Tests/release/YardRelay.Carriage.Tests
told=$(mktemp) log=$(mktemp); trap 'rm -f "$told" "$log"' EXIT
began=$SECONDS failed=0 done=0
while [ -n "$hours" ] || [ $done -lt "$seeds" ]; do
  [ -z "$hours" ] || [ $((SECONDS - began)) -lt $((hours * 3600)) ] || break
  more=500; [ -n "$hours" ] || [ $((seeds - done)) -ge $more ] || more=$((seeds - done))
  YARD_SEEDS=$((from + done))..$((from + done + more - 1)) YARD_LIVES=$told "$program" -class '*LivesTests' > "$log" 2>&1 || failed=1
  grep -q 'Failed: 0,' "$log" || { failed=1; sed -n '/\[FAIL\]/,/Stack Trace/p' "$log"; }
  done=$((done + more))
done
awk -v seconds=$((SECONDS - began)) '{ seeds += $1; steps += $2; kills += $3; cuts += $4 } END {
  printf "%d lives, %d steps, %d programs killed, power cut %d times, in %d s\n", seeds, steps, kills, cuts, seconds }' "$told"
if [ $failed = 0 ]; then say "No promise was broken."; else say "A promise was broken: see above."; exit 1; fi
