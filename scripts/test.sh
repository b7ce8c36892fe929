#!/usr/bin/env bash
# Installs what is missing, builds, and runs the tests. Ends with the line "N passed, N failed".
# Usage: scripts/test.sh [--only PART,…] [--all]
#   --only   parts by name, with commas: Core, Files, Records, Carriage, Client, Dav, Service, EndToEnd, console (and Form for layout and how large things are)
#   --all    also what takes longer than a change should wait for: Carriage by the Posix side, rosters and trees at their largest, the demo with a folder (YARD_WHOLE), many seeds (YARD_SEEDS)
# Parts run in two lanes beside each other; what each said is in out/test-results. From a fresh clone 20 to 28 minutes on two cores:
# 2 to build, 1 to compile ahead what starts often, 17 to 24 to run.
source "$(dirname "$0")/lib.sh"

only="" all=false
while [ $# -gt 0 ]; do
  case "$1" in
    --only) only=,${2:?--only takes parts, with commas between them}, ; shift ;;
    --all) all=true ;;
    *) say "test.sh: '$1' is not known. See its top."; exit 2 ;;
  esac
  shift
done
wanted() { [ -z "$only" ] || [[ "${only,,}" == *",${1,,},"* ]]; }

need "/usr/lib/$(uname -m)-linux-gnu/libicuuc.so.72=libicu72" smbd=samba smbnetfs=smbnetfs fusermount=fuse pdftotext=poppler-utils /usr/share/fonts/truetype/dejavu/DejaVuSans.ttf=fonts-dejavu-core /usr/bin/chromium=chromium age=age litmus=litmus /usr/sbin/apache2=apache2 /usr/sbin/sshd=openssh-server /usr/lib/postgresql/15/bin/initdb=postgresql-15 curl=curl python3=python3 pkill=procps setpriv=util-linux getfattr=attr diff=diffutils /usr/sbin/mkfs.ext4=e2fsprogs mount=mount
scripts/build.sh --checked
export YARD_BUILT=1
if wanted EndToEnd || wanted Service || wanted Carriage; then
  scripts/quicken.sh Service Line Hand Stand Service.Tests Carriage.Tests EndToEnd
  [ ! -d out/quick/Service ] || starters out/quick ""
fi
# Most programs live for seconds here: what is called often is worth compiling anew much later than in a service that runs for months.
# Nor is it worth counting what is called with what, nor a thread that collects beside the program; a young generation of 64 MB is collected seldom.
export DOTNET_TC_CallCountThreshold=200 DOTNET_TieredPGO=0 DOTNET_gcConcurrent=0 DOTNET_GCgen0size=0x4000000
! $all || export YARD_WHOLE=1

results=out/test-results
rm -rf $results; mkdir -p $results

# Ends a part: how many passed and failed, and how each that failed is run alone.
ended() { # name, passed, failed, seconds, how to run each that failed...
  local name=$1 took=$4; printf '%s %s\n' "$2" "$3" > "$results/$name.sum"; shift 4
  if [ $# -gt 0 ]; then printf '%s\n' "$@" > "$results/$name.again"; fi
  { say "== $name"; grep -vE 'Discover|Starting:|Finished:' "$results/$name.log" | tail -200; say "$name took $took s"; } > "$results/$name.said"
  cat "$results/$name.said"
}

# Runs a suite, and adds up what it says at its end.
suite() { # name, program, arguments...
  local name=$1 status=0 began=$SECONDS totals passed=0 failed=1 again=(); shift
  # None takes a quarter as long, and beside two other busy programs half: what hangs ends here, and is said.
  timeout 2700 "$@" > "$results/$name.log" 2>&1 || status=$?
  [ $status -ne 124 ] || say "$name was cut off after 45 minutes. What failed last may have failed by that." >> "$results/$name.log"
  totals=$(grep -E 'Total: [0-9]+' "$results/$name.log" | tail -1)
  if [[ "$totals" =~ Total:\ ([0-9]+),\ Errors:\ ([0-9]+),\ Failed:\ ([0-9]+),\ Skipped:\ ([0-9]+) ]]; then
    failed=$((BASH_REMATCH[2] + BASH_REMATCH[3]))
    passed=$((BASH_REMATCH[1] - BASH_REMATCH[3] - BASH_REMATCH[4]))
    [ $status -eq 0 ] || [ $failed -gt 0 ] || failed=1
    while read -r test; do again+=("$1 -method '$test'"); done < <(sed -nE 's/\x1b\[[0-9;]*m//g; s/^ *(YardRelay\.[^ (]+).* \[FAIL\].*/\1/p' "$results/$name.log" | sort -u)
  else
    say "$name ended without a total (exit $status)" >> "$results/$name.log"
    again=("$*")
  fi
  ended "$name" $passed $failed $((SECONDS - began)) "${again[@]}"
}

# A suite by the name of its project, where it is wanted.
part() { # name
  wanted "${1%.Tests}" || return 0
  local program=out/artifacts/bin/$1/release/YardRelay.$1
  [ ! -x "out/quick/$1/YardRelay.$1" ] || program=out/quick/$1/YardRelay.$1
  suite "$1" "$program"
}

layout() {
  wanted form || return 0
  local began=$SECONDS failed=0 again=()
  dotnet format whitespace . --folder --verify-no-changes --exclude out console/node_modules --verbosity quiet > "$results/layout.log" 2>&1 ||
    { failed=1; again=("dotnet format whitespace . --folder --exclude out console/node_modules"); }
  # What the product stands on is named as it was built.
  scripts/dependencies.sh --check >> "$results/layout.log" 2>&1 || { failed=$((failed + 1)); again+=("scripts/dependencies.sh"); }
  sed 's/^/may only fall: /' tests/Form.Tests/kept.txt >> "$results/layout.log"
  ended layout $((2 - failed)) $failed $((SECONDS - began)) "${again[@]}"
}

console() {
  wanted console || return 0
  local began=$SECONDS passed failed again=()
  (cd console && npm run --silent check) > "$results/console.log" 2>&1 || again+=("cd console && npm run check")
  (cd console && npx vitest run --reporter=default --reporter=json --outputFile.json=../out/vitest.json) > "$results/vitest.log" 2>&1 ||
    { tail -40 "$results/vitest.log" >> "$results/console.log"; again+=("cd console && npx vitest run"); }
  passed=$(sed -n 's/.*"numPassedTests":\([0-9]*\).*/\1/p' out/vitest.json | head -1)
  failed=$(sed -n 's/.*"numFailedTests":\([0-9]*\).*/\1/p' out/vitest.json | head -1)
  [ ${#again[@]} -eq 0 ] || [ "${failed:-0}" -gt 0 ] || failed=1
  ended console "${passed:-0}" "${failed:-1}" $((SECONDS - began)) "${again[@]}"
}

# Two lanes beside each other: programs and browsers wait for one another where what only reckons does not. Whichever is free takes the
# next part, the longest first, so that both end together.
began=$SECONDS
rm -f out/vitest.json
parts=("part EndToEnd" "part Service.Tests" "part Carriage.Tests" console "part Core.Tests" layout "part Form.Tests" "part Records.Tests" "part Client.Tests" "part Dav.Tests" "part Files.Tests")
echo 0 > $results/next
next() { (flock 9; at=$(cat $results/next); echo $((at + 1)) > $results/next; echo "$at") 9> $results/next.lock; }
lane() { local at; while at=$(next); [ "$at" -lt ${#parts[@]} ]; do ${parts[$at]} || true; done; }
lane & beside=$!
lane
wait $beside || true
for project in tests/*/*.csproj; do
  name=$(basename "$project" .csproj)
  [ "$name" = Peers ] || ! wanted "${name%.Tests}" || [ -f "$results/$name.sum" ] || { say "$name was not run to its end"; printf '0 1\n' > "$results/$name.sum"; }
done
! wanted console || [ -f "$results/console.sum" ] || { say "console was not run to its end"; printf '0 1\n' > "$results/console.sum"; }
passed=$(cat $results/*.sum | awk '{ p += $1 } END { print p + 0 }') failed=$(cat $results/*.sum | awk '{ f += $2 } END { print f + 0 }')
again=(); while read -r one; do again+=("$one"); done < <(cat $results/*.again 2>/dev/null || true)
say "The tests took $((SECONDS - began)) s"
if $all; then
  say "== long runs"
  # What carries, on Linux asked like a system that has nothing but POSIX.
  began=$SECONDS
  if YARD_FILES=posix timeout 3600 out/artifacts/bin/Carriage.Tests/release/YardRelay.Carriage.Tests > $results/posix.log 2>&1; then
    passed=$((passed + 1)); say "Carriage by the Posix side passed in $((SECONDS - began)) s"
  else
    failed=$((failed + 1)); again+=("YARD_FILES=posix scripts/test.sh --only Carriage"); tail -50 $results/posix.log
  fi
  scripts/simulate.sh --seeds 2000 && passed=$((passed + 1)) || { failed=$((failed + 1)); again+=("scripts/simulate.sh --seeds 2000"); }
  scripts/soak.sh "${YARD_SEEDS:-20}" && passed=$((passed + 1)) || { failed=$((failed + 1)); again+=("scripts/soak.sh ${YARD_SEEDS:-20}"); }
fi
for one in "${again[@]}"; do say "To run what failed alone: $one"; done
say "$passed passed, $failed failed"
[ "$failed" -eq 0 ] && [ "$passed" -gt 0 ]
