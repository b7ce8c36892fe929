#!/usr/bin/env bash
# Installs what is missing, builds, and runs the tests. Ends with the line "N passed, N failed".
# Usage: scripts/test.sh [--only PART,…] [--all]
#   --only   parts by name, with commas: Core, Records, Carriage, Client, Dav, Service, EndToEnd, console (and Form for layout and how large things are)
#   --all    also what takes longer than a change should wait for (YARD_SEEDS, scripts/soak.sh)
# Takes about half an hour on two cores from a fresh clone: 5 minutes to build, 10 to 15 for EndToEnd, 4 to 6 for Service, 4 for Carriage.
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

need smbd=samba smbnetfs=smbnetfs fusermount=fuse pdftotext=poppler-utils /usr/share/fonts/truetype/dejavu/DejaVuSans.ttf=fonts-dejavu-core /usr/bin/chromium=chromium age=age litmus=litmus /usr/sbin/apache2=apache2 /usr/sbin/sshd=openssh-server /usr/lib/postgresql/15/bin/initdb=postgresql-15 curl=curl python3=python3 pkill=procps setpriv=util-linux getfattr=attr diff=diffutils
scripts/build.sh --checked
export YARD_BUILT=1
if wanted EndToEnd || wanted Service; then
  scripts/quicken.sh Service Line Hand Stand Service.Tests
  [ ! -d out/quick/Service ] || starters out/quick ""
fi

passed=0 failed=0 again=()
log=$(mktemp); trap 'rm -f "$log"' EXIT

if wanted form; then
  say "== form"
  dotnet format whitespace . --folder --verify-no-changes --exclude out console/node_modules --verbosity quiet || { failed=$((failed + 1)); again+=("dotnet format whitespace . --folder --exclude out console/node_modules"); }
  sed 's/^/may only fall: /' tests/Form.Tests/kept.txt
fi

# Runs a suite, prints what failed and its total, and adds it up.
suite() { # name, program, arguments...
  local name=$1 status=0 began=$SECONDS totals; shift
  # None takes half as long: what hangs ends here, and is said.
  timeout 1800 "$@" > "$log" 2>&1 || status=$?
  grep -vE 'Discover|Starting:|Finished:' "$log" | tail -200
  totals=$(grep -E 'Total: [0-9]+' "$log" | tail -1)
  if [[ "$totals" =~ Total:\ ([0-9]+),\ Errors:\ ([0-9]+),\ Failed:\ ([0-9]+),\ Skipped:\ ([0-9]+) ]]; then
    local bad=$((BASH_REMATCH[2] + BASH_REMATCH[3]))
    passed=$((passed + BASH_REMATCH[1] - BASH_REMATCH[3] - BASH_REMATCH[4]))
    [ $status -eq 0 ] || [ $bad -gt 0 ] || bad=1
    failed=$((failed + bad))
    while read -r test; do again+=("$1 -method '$test'"); done < <(sed -nE 's/\x1b\[[0-9;]*m//g; s/^ *(YardRelay\.[^ (]+).* \[FAIL\].*/\1/p' "$log" | sort -u)
  else
    say "$name ended without a total (exit $status)"
    failed=$((failed + 1)); again+=("$*")
  fi
  say "$name took $((SECONDS - began)) s"
}

for project in tests/*/*.csproj; do
  name=$(basename "$project" .csproj)
  [ "$name" != Peers ] && wanted "${name%.Tests}" || continue
  say "== $name"
  program=out/artifacts/bin/$name/release/YardRelay.$name
  [ ! -x "out/quick/$name/YardRelay.$name" ] || program=out/quick/$name/YardRelay.$name
  suite "$name" "$program"
done
if wanted console; then
  say "== console"
  began=$SECONDS
  (cd console && npm run --silent check) || { failed=$((failed + 1)); again+=("cd console && npm run check"); }
  (cd console && npx vitest run --reporter=json --outputFile=../out/vitest.json >/dev/null 2>"$log") || { tail -40 "$log"; again+=("cd console && npx vitest run"); }
  p=$(sed -n 's/.*"numPassedTests":\([0-9]*\).*/\1/p' out/vitest.json | head -1); f=$(sed -n 's/.*"numFailedTests":\([0-9]*\).*/\1/p' out/vitest.json | head -1)
  passed=$((passed + ${p:-0})); failed=$((failed + ${f:-1}))
  say "console took $((SECONDS - began)) s"
fi
if $all; then
  say "== long runs"
  scripts/soak.sh "${YARD_SEEDS:-20}" && passed=$((passed + 1)) || { failed=$((failed + 1)); again+=("scripts/soak.sh ${YARD_SEEDS:-20}"); }
fi
for one in "${again[@]}"; do say "To run what failed alone: $one"; done
say "$passed passed, $failed failed"
[ "$failed" -eq 0 ] && [ "$passed" -gt 0 ]
