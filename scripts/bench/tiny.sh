# Files of 1 to 4 kB, of which homes are full, to a folder depot and read back: against cp -a and a digest at both ends, and against a C
# program that makes only the calls that this cannot do without (bench/limit.c; where there is a compiler). Trees of real shapes beside one
# of one size. In memory and on the disk.
tiny=100000; small && tiny=10000
limit=""
if command -v cc >/dev/null 2>&1; then limit=$work/limit; cc -O2 -o "$limit" "$root/bench/limit.c" -lpthread; fi
make_shape() { # where, shape, files
  rm -rf "$1"; mkdir -p "$1"
  python3 - "$1" "$2" "$3" <<'EOF'
import os, random, sys
root, shape, n = sys.argv[1], sys.argv[2], int(sys.argv[3])
r = random.Random(shape)
block = r.randbytes(1 << 22)
made = set()
def put(path, size):
    full = f"{root}/{path}"
    at = os.path.dirname(full)
    if at not in made: os.makedirs(at, exist_ok=True); made.add(at)
    start = r.randrange(len(block) - size) if size < len(block) else 0
    with open(full, "wb") as f: f.write(block[start:start + size])
def log(median, spread): return max(1, min(3_000_000, int(median * 2.718281828 ** r.gauss(0, spread))))
for i in range(n):
    if shape == "even": put(f"d{i // 50 % 97}/e{i // 50}/f{i}.dat", r.randint(1024, 4096))
    elif shape == "profile": put(f".browser/{r.choice(['storage', 'entries', 'thumbs', 'sync'])}/{r.getrandbits(8):02x}/{i:x}{r.getrandbits(64):016x}", log(1700, 1.1))
    elif shape == "source": put(f"tree/{'/'.join(f'mod{r.randrange(9)}' for _ in range(r.randint(1, 6)))}/file_{i}.{r.choice(['c', 'h', 'cs', 'o'])}", log(2800, 1.2))
    elif shape == "mail": put(f"Mail/folder {i // 4000}/cur/{1600000000 + i}.M{i}P1.host,S={i % 9000}:2,S", log(3500, 1.0))
    elif shape == "photos": put(f"Pictures/{2000 + i // 400}/IMG_{i:05}.jpg", log(60000, 0.6)) if i % 10 == 0 else put(f"Pictures/{2000 + i // 400}/IMG_{i:05}.xmp", log(1500, 0.4))
EOF
}
for place in memory disk; do
  [ $place = memory ] && at=$shm || at=$work
  for shape in even profile source mail photos; do
    [ $place = memory ] || [ $shape = even ] || continue
    of=$tiny; [ $shape = even ] || of=$((tiny / 4))
    make_shape "$at/src" $shape $of
    sleep 1; a=() b=() c=()
    for round in $(seq "$rounds"); do
      rm -rf "$at/copy"; a+=("$(seconds by_hand)")
      rm -rf "$at/copy" "$at/depot"; mkdir "$at/depot"; b+=("$(seconds $hand carry --from "$at/src" --depot "file://$at/depot" --parcel p)")
      [ -z "$limit" ] || { rm -rf "$at/least"; mkdir "$at/least"; c+=("$(seconds "$limit" "$at/src" "$at/least")"); rm -rf "$at/least"; }
    done
    ma=$(middle "${a[@]}") mb=$(middle "${b[@]}")
    say "carry $of files of the shape '$shape' in the $place, read back: $mb s; cp -a, sha256sum, sha256sum -c: $ma s; ratio $(ratio "$mb" "$ma") (0.6 wanted)"
    [ -z "$limit" ] || { mc=$(middle "${c[@]}"); say "  the calls alone, in C: $mc s; ratio $(ratio "$mb" "$mc") (2.0 wanted)"; }
    rm -rf "$at/src" "$at/depot" "$at/copy"
  done
done
