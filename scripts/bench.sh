#!/usr/bin/env bash
# Speed and memory as ratios against a baseline in the same run, in turns, medians.
# Usage: scripts/bench.sh [--rounds N] [--small] [--only carry,tiny,names,big,share,memory,sealed,service,day,desk,people,plans]
# scripts/bench/ has a file for each part; docs/benchmarks.md the figures and how they were got.
source "$(dirname "$0")/lib.sh"
rounds=3 files=50000 only=carry,tiny,names,big,share,memory,sealed,service,day,desk,people,plans
while [ $# -gt 0 ]; do
  case "$1" in
    --rounds) rounds=${2:?}; shift ;;
    --small) files=5000 ;;
    --only) only=${2:?}; shift ;;
    *) say "bench.sh: '$1' is not known."; exit 2 ;;
  esac
  shift
done
need curl=curl python3=python3 /usr/bin/time=time openssl=openssl age=age setpriv=util-linux /usr/lib/postgresql/15/bin/initdb=postgresql-15
scripts/build.sh --release
work=$(mktemp -d "${TMPDIR:-/tmp}/yard-bench.XXXXXX"); pids=()
trap 'for p in "${pids[@]}"; do kill "$p" 2>/dev/null || true; done; rm -rf "$work"' EXIT
hand=out/bin/yardhand

seconds() { local s e; s=$(date +%s.%N); "$@" >"$work/last.log" 2>&1 || { cat "$work/last.log"; exit 1; }; e=$(date +%s.%N); echo "$e $s" | awk '{printf "%.3f\n", $1-$2}'; }
median() { sort -n | awk '{a[NR]=$1} END {print (NR%2) ? a[(NR+1)/2] : (a[NR/2]+a[NR/2+1])/2}'; }
ratio() { awk -v a="$1" -v b="$2" 'BEGIN {printf "%.2f", a/b}'; }

middle() { printf '%s\n' "$@" | median; }
# Files of random lengths in a tree of folders: where, how many, longest in bytes.
make_small() {
  rm -rf "$1"; mkdir -p "$1"
  python3 - "$1" "$2" "$3" <<'EOF'
import os, random, sys
root, n, most = sys.argv[1], int(sys.argv[2]), int(sys.argv[3])
r = random.Random(1)
block = r.randbytes(1 << 20)
for i in range(n):
    folder = i % max(1, n // 50)
    d = f"{root}/d{folder % 97}/e{folder}"
    if i == folder: os.makedirs(d, exist_ok=True)
    size = int(most * r.random())
    at = r.randrange(len(block) - size)
    with open(f"{d}/f{i}.dat", "wb") as f: f.write(block[at:at + size])
EOF
}
# By hand: cp -a and a digest at both ends. On the disk what was written is brought onto it and read back from there: what the kernel keeps
# of it is dropped first.
dropped() {
  sync -f "$1"
  python3 - "$1" <<'EOF'
import os, sys
for folder, _, files in os.walk(sys.argv[1]):
    for name in files:
        file = os.open(os.path.join(folder, name), os.O_RDONLY)
        os.posix_fadvise(file, 0, 0, os.POSIX_FADV_DONTNEED)
        os.close(file)
EOF
}
by_hand() {
  cp -a "$at/src" "$at/copy"
  (cd "$at/src" && find . -type f -print0 | xargs -0 sha256sum > "$at/sums")
  [ $place = memory ] || dropped "$at/copy"
  (cd "$at/copy" && sha256sum --quiet -c "$at/sums")
}
peak() { /usr/bin/time -f %M "$@" 2>&1 >/dev/null | tail -1 | awk '{printf "%d", $1/1000}'; }
small() { [ "$files" -lt 50000 ]; }
# In memory, where the program shows and not the disk.
shm=$(mktemp -d /dev/shm/yard-bench.XXXXXX); trap 'for p in "${pids[@]}"; do kill "$p" 2>/dev/null || true; done; rm -rf "$work" "$shm"' EXIT

for part in ${only//,/ }; do
  [ -f "scripts/bench/$part.sh" ] || { say "bench.sh: there is no part '$part'."; exit 2; }
done
for part in ${only//,/ }; do source "scripts/bench/$part.sh"; done
