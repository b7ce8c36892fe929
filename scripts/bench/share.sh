# A WebDAV share that is 20 ms away, and one big file over one that is near.
count=10000; small && count=1000
make_small "$shm/src" "$count" 16000
port=$(free_port); out/bin/yardstand cloud --folder "$shm/cloud" --port "$port" --delay-ms 20 >/dev/null 2>&1 & far=$!; pids+=($far)
until curl -fs "http://127.0.0.1:$port/" >/dev/null 2>&1; do sleep 0.05; done
# What a request takes over one connection that stands already: the delay, and what client and server need for it.
one=$(python3 - "$port" <<'EOF'
import http.client, sys, time
c = http.client.HTTPConnection("127.0.0.1", int(sys.argv[1]))
def ask():
    c.request("HEAD", "/"); c.getresponse().read()
ask(); start = time.time()
for _ in range(100): ask()
print((time.time() - start) / 100)
EOF
)
# Two requests a file (put aside, moved to its name), three with reading back, over 32 connections at most.
least() { awk -v n="$count" -v r="$1" -v d="$one" 'BEGIN {printf "%.2f", n*r*d/32}'; }
a=() b=()
for round in $(seq "$rounds"); do
  rm -rf "$shm/cloud/p" "$shm/cloud/q"
  a+=("$(seconds $hand carry --from "$shm/src" --depot "http://127.0.0.1:$port/" --parcel p --no-read-back)")
  b+=("$(seconds $hand carry --from "$shm/src" --depot "http://127.0.0.1:$port/" --parcel q)")
done
ma=$(middle "${a[@]}") mb=$(middle "${b[@]}")
say "carry $count files over a share that answers in $(awk -v d="$one" 'BEGIN {printf "%.1f", d*1000}') ms: $ma s (${a[*]}); two requests a file over 32 connections: $(least 2) s; ratio $(ratio "$ma" "$(least 2)") (1.3 wanted)"
say "  read back: $mb s (${b[*]}); three requests a file: $(least 3) s; ratio $(ratio "$mb" "$(least 3)") (1.3 wanted)"
kill $far; rm -rf "$shm/src" "$shm/cloud"; mkdir "$shm/src"
mb=2000; small && mb=200
head -c $((mb * 1000000)) /dev/urandom > "$shm/src/film.mov"
port=$(free_port); out/bin/yardstand cloud --folder "$shm/cloud" --port "$port" >/dev/null 2>&1 & near=$!; pids+=($near)
until curl -fs "http://127.0.0.1:$port/" >/dev/null 2>&1; do sleep 0.05; done
upload() { curl -fsS -T "$shm/src/film.mov" "http://127.0.0.1:$port/film.mov" && openssl dgst -sha256 "$shm/src/film.mov"; }
carry() { $hand carry --from "$shm/src" --depot "http://127.0.0.1:$port/" --parcel p --no-read-back; }
a=() b=()
for round in $(seq "$rounds"); do
  rm -f "$shm/cloud/film.mov"; a+=("$(seconds upload)"); rm -rf "$shm/cloud/film.mov" "$shm/cloud/p"; b+=("$(seconds carry)")
done
ma=$(middle "${a[@]}") mb=$(middle "${b[@]}")
say "carry one big file over a share that is near, not read back: $mb s; curl -T and one digest: $ma s; ratio $(ratio "$mb" "$ma") (1.2 wanted)"
kill $near; rm -rf "$shm/src" "$shm/cloud"
