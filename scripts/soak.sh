#!/usr/bin/env bash
# Runs the seeded faults many times over: trees that change between trips that break off, a share with bad days, programs killed in the middle.
# Usage: scripts/soak.sh [seeds, 100 by default]. docs/reliability.md says what was counted.
source "$(dirname "$0")/lib.sh"
seeds=${1:-100}
case $seeds in '' | *[!0-9]*) say "soak.sh: '$seeds' is no number of seeds."; exit 2 ;; esac
need /usr/sbin/apache2=apache2 /usr/sbin/sshd=openssh-server pkill=procps smbd=samba smbnetfs=smbnetfs fusermount=fuse age=age getfattr=attr diff=diffutils
scripts/build.sh --checked
failed=0
run() { # what, program, more
  local what=$1; shift
  say "$what"
  YARD_SEEDS=${YARD_SEEDS:-$seeds} "$@" 2>&1 | tee "$log" | grep -E -A14 '\[FAIL\]|Total:' || true
  grep -q 'Failed: 0,' "$log" || failed=1
}
log=$(mktemp); trap 'rm -f "$log"' EXIT
carriage=out/artifacts/bin/Carriage.Tests/release/YardRelay.Carriage.Tests ends=out/artifacts/bin/EndToEnd/release/YardRelay.EndToEnd
run "$seeds trees that change between trips that break off, open and sealed" "$carriage" -class '*ManyTripsTests'
run "$seeds seeds of a share that refuses, drops, loses replies and answers by half" "$carriage" -class '*FaultyShareTests'
run "$seeds seeds of depots that are killed while they are written to and read from, of every kind" "$carriage" -class '*DepotKilledTests'
for round in $(seq $(((seeds + 19) / 20))); do
  run "hands killed at twenty moments of a trip, a restore, a sealed one: round $round" "$ends" -class '*HandTests' -method '*illed*'
  YARD_SEEDS="$round..$round" run "the service killed in every kind of write: round $round" "$ends" -class '*WritesKilledTests'
  run "hand and service killed while they work together: round $round" "$ends" -class '*FaultTests'
done
if [ $failed = 0 ]; then say "Nothing lost, nothing silent."; else say "Something failed: see above."; exit 1; fi
