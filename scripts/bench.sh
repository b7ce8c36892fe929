#!/usr/bin/env bash
# Speed and memory as ratios against a baseline in the same run, in turns, medians. Usage: scripts/bench.sh [--rounds N] [--small]
source "$(dirname "$0")/lib.sh"
rounds=3 files=50000
while [ $# -gt 0 ]; do
  case "$1" in
    --rounds) rounds=${2:?}; shift ;;
    --small) files=5000 ;;
    *) say "bench.sh: '$1' is not known."; exit 2 ;;
  esac
  shift
done
need curl=curl python3=python3 /usr/bin/time=time openssl=openssl age=age
scripts/build.sh
work=$(mktemp -d "${TMPDIR:-/tmp}/yard-bench.XXXXXX"); pids=()
trap 'for p in "${pids[@]}"; do kill "$p" 2>/dev/null || true; done; rm -rf "$work"' EXIT
hand=out/bin/yardhand

seconds() { local s e; s=$(date +%s.%N); "$@" >"$work/last.log" 2>&1 || { cat "$work/last.log"; exit 1; }; e=$(date +%s.%N); echo "$e $s" | awk '{printf "%.3f\n", $1-$2}'; }
median() { sort -n | awk '{a[NR]=$1} END {print (NR%2) ? a[(NR+1)/2] : (a[NR/2]+a[NR/2+1])/2}'; }
ratio() { awk -v a="$1" -v b="$2" 'BEGIN {printf "%.2f", a/b}'; }

say "Making $files files of about 18 kB"
mkdir -p "$work/src"
python3 - "$work/src" "$files" <<'EOF'
import os, random, sys
root, n = sys.argv[1], int(sys.argv[2])
r = random.Random(1)
block = r.randbytes(1 << 20)
for i in range(n):
    d = f"{root}/d{i % 97}/e{i % 11}"
    os.makedirs(d, exist_ok=True)
    size = int(36_000 * r.random())
    at = r.randrange(len(block) - size)
    with open(f"{d}/f{i}.dat", "wb") as f: f.write(block[at:at + size])
EOF
sleep 1

by_hand() {
  cp -a "$work/src" "$work/copy"
  (cd "$work/src" && find . -type f -print0 | xargs -0 sha256sum > "$work/sums")
  (cd "$work/copy" && sha256sum --quiet -c "$work/sums")
}
by_hand_openssl() {
  cp -a "$work/src" "$work/copy"
  (cd "$work/src" && find . -type f -print0 | xargs -0 openssl dgst -sha256 -r > "$work/sums")
  (cd "$work/copy" && find . -type f -print0 | xargs -0 openssl dgst -sha256 -r > "$work/sums2")
  [ "$(sort "$work/sums" | sha256sum)" = "$(sort "$work/sums2" | sha256sum)" ]
}
carry() { $hand carry --from "$work/src" --depot "file://$work/depot" --parcel p; }

a=() b=() c=()
for round in $(seq "$rounds"); do
  rm -rf "$work/copy"; a+=("$(seconds by_hand)")
  rm -rf "$work/copy" "$work/depot"; mkdir "$work/depot"; b+=("$(seconds carry)")
  rm -rf "$work/copy"; c+=("$(seconds by_hand_openssl)"); rm -rf "$work/copy"
done
ma=$(printf '%s\n' "${a[@]}" | median) mb=$(printf '%s\n' "${b[@]}" | median) mc=$(printf '%s\n' "${c[@]}" | median)
say "carry $files files, verified by reading back: $mb s; cp -a and sha256sum twice: $ma s; ratio $(ratio "$mb" "$ma") (0.6 or better)"
say "  beside it, cp -a and openssl dgst -sha256 twice: $mc s; ratio $(ratio "$mb" "$mc")"

sync # what the rounds above left to be written to the disk is not the second trip's to wait for
look() { find "$work/src" -printf '%p %s %T@ %m %l\n'; }
a=() b=()
for round in $(seq $((rounds * 2 + 1))); do a+=("$(seconds look)"); b+=("$(seconds carry)"); done
ma=$(printf '%s\n' "${a[@]}" | median) mb=$(printf '%s\n' "${b[@]}" | median)
c=(); for round in $(seq $((rounds * 2 + 1))); do c+=("$(seconds $hand survey --from "$work/src" --json)"); done
mc=$(printf '%s\n' "${c[@]}" | median)
say "survey: $mc s; find -printf: $ma s; ratio $(ratio "$mc" "$ma") (1.5 or better wanted, on 200,000 files)"
say "second trip, nothing changed: $mb s; find -printf: $ma s; ratio $(ratio "$mb" "$ma") (5 or better)"

peak() { /usr/bin/time -f %M "$@" 2>&1 >/dev/null | tail -1 | awk '{printf "%d", $1/1000}'; }
rm -rf "$work/depot"; mkdir "$work/depot"
say "peak memory of the hand on $files files: carry $(peak $hand carry --from "$work/src" --depot "file://$work/depot" --parcel p) MB, verify $(peak $hand verify --depot "file://$work/depot" --parcel p) MB, restore $(peak $hand restore --depot "file://$work/depot" --parcel p --to "$work/new") MB (under 250)"
age-keygen -o "$work/key" 2>/dev/null; recipient=$(age-keygen -y "$work/key")
export XDG_STATE_HOME="$work/state"
by_pipeline() {
  mkfifo "$work/one" "$work/two"
  openssl dgst -sha256 < "$work/one" > "$work/sum1" & local first=$!
  openssl dgst -sha256 < "$work/two" > "$work/sum2" & local second=$!
  tar --format=pax -C "$work/src" -cf - . | tee "$work/one" | age -r "$recipient" | tee "$work/two" > "$work/sealed.tar.age"
  wait $first $second
  rm "$work/one" "$work/two"
}
seal() { $hand carry --from "$work/src" --depot "file://$work/depot" --parcel s --seal-to "$recipient"; }
unseal() { $hand restore --depot "file://$work/depot" --parcel s --to "$work/new"; }
a=() b=() c=()
for round in $(seq "$rounds"); do
  rm -f "$work/sealed.tar.age"; a+=("$(seconds by_pipeline)")
  rm -rf "$work/depot"; mkdir "$work/depot"; b+=("$(seconds seal)")
  rm -rf "$work/new"; c+=("$(seconds unseal)")
done
ma=$(printf '%s\n' "${a[@]}" | median) mb=$(printf '%s\n' "${b[@]}" | median) mc=$(printf '%s\n' "${c[@]}" | median)
say "sealed carry, read back: $mb s; tar, age and two openssl dgst, not read back: $ma s; ratio $(ratio "$mb" "$ma") (1.15 or better); restore $mc s, $(ratio "$mc" "$mb") of the carry (1.0 or better)"
say "peak memory of the hand sealed: restore $(peak $hand restore --depot "file://$work/depot" --parcel s --to "$work/new") MB, carry $(rm -rf "$work/depot"; mkdir "$work/depot"; peak $hand carry --from "$work/src" --depot "file://$work/depot" --parcel s --seal-to "$recipient") MB (under 250)"
rm -rf "$work/depot" "$work/new" "$work/src"; mkdir "$work/depot" "$work/src"
head -c 2000000000 /dev/urandom > "$work/src/big.bin"
say "peak memory of the hand on one 2 GB file: carry $(peak $hand carry --from "$work/src" --depot "file://$work/depot" --parcel p) MB, restore $(peak $hand restore --depot "file://$work/depot" --parcel p --to "$work/new") MB (under 250)"
rm -rf "$work/depot" "$work/new" "$work/src"

port=$(free_port); start=$(date +%s.%N)
out/bin/yardrelay --urls "http://127.0.0.1:$port" --state "$work/state" --log Error >/dev/null 2>&1 & pids+=($!)
until curl -fs "http://127.0.0.1:$port/health/ready" >/dev/null 2>&1; do sleep 0.02; done
ready=$(echo "$(date +%s.%N) $start" | awk '{printf "%.2f", $1-$2}')
sleep 5
say "service: ready after $ready s (within 3, migrations included), idle with $(awk '/VmRSS/ {printf "%d", $2/1000}' "/proc/${pids[-1]}/status") MB (under 250)"

# Plans: the median cost of some seeds against the best plan known of each instance, and for the small ones against what an
# independent exact solver proves in this run (it may begin at our plan, which changes nothing of what it proves).
say "Building the exact solver (bench/exact, never part of the product)"
dotnet build bench/exact -c Release -v quiet --nologo >"$work/last.log" 2>&1 || { cat "$work/last.log"; exit 1; }
exactly() { dotnet out/artifacts/bin/Exact/release/YardRelay.Exact.dll "$1" "bench/plan-instances/$2.json" "$work/plan.json"; }
plans() { local seconds=$1 f s costs; shift
  for f in "$@"; do
    costs=()
    for s in $(seq "$seeds"); do costs+=("$(out/bin/yardline plan solve "bench/plan-instances/$f.json" --out "$work/plan.json" --seconds "$seconds" --seed "$s" --json | python3 -c 'import json,sys; print(json.load(sys.stdin)["cost"])')"); done
    case "$f" in tiny-*|small-*) exact=$(exactly "$proof" "$f") ;; *) exact="" ;; esac
    python3 - "$f" "$seconds" "$exact" "${costs[@]}" <<'EOF2'
import json, statistics, sys
name, seconds, exact, costs = sys.argv[1], sys.argv[2], sys.argv[3], sorted(map(int, sys.argv[4:]))
known = json.load(open("bench/plan-instances/best-known.json"))[name]
cost = statistics.median(costs)
print(f"plan {name}: median cost {cost:g} after {seconds} s ({costs[0]} to {costs[-1]} in {len(costs)} seeds); best known {known['cost']}, proven bound {known['bound']}; ratio {cost / known['cost']:.3f}")
if exact:
    exact = json.loads(exact)
    print(f"  exact solver: cost {exact['cost']}, {'proven the least' if exact['proven'] else 'proven bound ' + format(exact['bound'], 'g')}; ours is {cost / exact['bound'] - 1:.1%} above the bound")
EOF2
  done
}
seeds=5 proof=180; [ "$files" = 50000 ] || { seeds=1; proof=20; }
plans 1 tiny-1 tiny-2
plans 5 small-1 small-2 replan-1 travel-1 interleave-1
plans 10 mid-1 tight-1
plans 60 mid-1 tight-1
seeds=1
plans 60 large-1
start=$(date +%s.%N); out/bin/yardline plan solve bench/plan-instances/large-1.json --out "$work/plan.json" --steps 0 >/dev/null
say "first full plan of large-1 (2,000 swaps): $(echo "$(date +%s.%N) $start" | awk '{printf "%.2f", $1-$2}') s, program start included (within 2)"

# Twenty thousand swaps: against plain insertion of the same instance.
value() { python3 -c 'import json,sys; print(json.load(sys.stdin)[sys.argv[1]])' "$1"; }
solve() { out/bin/yardline plan solve "$@" --out "$work/plan.json" --json; }
for n in 2000 20000; do
  if [ $n = 2000 ]; then python3 bench/generate.py --swaps 2000 --technicians 14 --sites 14 --days 28 > "$work/$n.json"; else python3 bench/generate.py > "$work/$n.json"; fi
  plain=$(solve "$work/$n.json" --plain | value cost) first=$(solve "$work/$n.json" --steps 0 | value seconds)
  [ $n = 2000 ] && first2000=$first
  long=180; [ "$files" = 50000 ] || long=20
  memory=$(/usr/bin/time -f %M -o "$work/memory" out/bin/yardline plan solve "$work/$n.json" --out "$work/plan.json" --seconds "$([ $n = 2000 ] && echo 20 || echo $long)" --json | value cost)
  say "plan of $n generated swaps: cost $memory, plain earliest-first insertion $plain, ratio $(ratio "$memory" "$plain"); first full plan $first s; peak $(awk '{printf "%d", $1/1000}' "$work/memory") MB"
done
say "  the first plan takes $(ratio "$first" "$first2000") times as long for ten times the swaps (15 or better)"

solve bench/plan-instances/mid-1.json --seconds 10 >/dev/null; cp "$work/plan.json" "$work/promised.json"
python3 bench/sick-day.py bench/plan-instances/mid-1.json "$work/promised.json" > "$work/sick.json"
a=(); for s in $(seq 5); do a+=("$(solve "$work/sick.json" --from "$work/promised.json" --seconds 1.8 --seed "$s" | value moved)"); done
say "repair of mid-1 on a sick day, 1.8 s: $(printf '%s\n' "${a[@]}" | median) promises broken, median of 5 seeds; after 60 s: $(solve "$work/sick.json" --from "$work/promised.json" --seconds 60 | value moved)"
bash bench/moves.sh
