#!/usr/bin/env bash
# Installs what is missing, builds, and runs every test. Ends with the line "N passed, N failed".
source "$(dirname "$0")/lib.sh"

need smbd=samba smbnetfs=smbnetfs fusermount=fuse pdftotext=poppler-utils /usr/share/fonts/truetype/dejavu/DejaVuSans.ttf=fonts-dejavu-core /usr/bin/chromium=chromium age=age litmus=litmus /usr/sbin/apache2=apache2 /usr/sbin/sshd=openssh-server /usr/lib/postgresql/15/bin/initdb=postgresql-15 curl=curl python3=python3 pkill=procps setpriv=util-linux getfattr=attr diff=diffutils
say "Formatting"
dotnet build-server shutdown >/dev/null 2>&1 || true
scripts/build.sh
dotnet format YardRelay.slnx --verify-no-changes --no-restore --verbosity quiet

passed=0 failed=0
out/bin/yardhand --help >/dev/null
log=$(mktemp)
for project in tests/*/*.csproj; do
  name=$(basename "$project" .csproj)
  [ "$name" = Peers ] && continue
  say "== $name"
  status=0
  # None takes half as long: what hangs ends here, and is said.
  timeout 1800 "out/artifacts/bin/$name/release/YardRelay.$name" > "$log" 2>&1 || status=$?
  grep -vE 'Discover|Starting:|Finished:' "$log" | tail -200
  totals=$(grep -E 'Total: [0-9]+' "$log" | tail -1)
  if [[ "$totals" =~ Total:\ ([0-9]+),\ Errors:\ ([0-9]+),\ Failed:\ ([0-9]+),\ Skipped:\ ([0-9]+) ]]; then
    bad=$(( BASH_REMATCH[2] + BASH_REMATCH[3] ))
    passed=$(( passed + BASH_REMATCH[1] - BASH_REMATCH[3] - BASH_REMATCH[4] ))
    failed=$(( failed + bad ))
    [ $status -eq 0 ] || [ $bad -gt 0 ] || failed=$((failed + 1))
  else
    say "$name ended without a total (exit $status)"
    failed=$((failed + 1))
  fi
done
if [ -f console/package.json ]; then
  say "== console"
  (cd console && npm run --silent check) || failed=$((failed + 1))
  if (cd console && npx vitest run --reporter=json --outputFile=../out/vitest.json >/dev/null 2>&1); then :; fi
  p=$(sed -n 's/.*"numPassedTests":\([0-9]*\).*/\1/p' out/vitest.json | head -1); f=$(sed -n 's/.*"numFailedTests":\([0-9]*\).*/\1/p' out/vitest.json | head -1)
  passed=$((passed + ${p:-0})); failed=$((failed + ${f:-1}))
fi
rm -f "$log"
say "$passed passed, $failed failed"
[ "$failed" -eq 0 ] && [ "$passed" -gt 0 ]
