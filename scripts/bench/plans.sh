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
