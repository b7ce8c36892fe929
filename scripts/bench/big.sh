# Big files: 4 GB in eight, in memory, against cp -a and digests; and nothing read back against openssl dgst in two processes.
mb=512; small && mb=64
mkdir -p "$shm/src"
for i in 1 2 3 4 5 6 7 8; do head -c $((mb * 1000000)) /dev/urandom > "$shm/src/film$i.mov"; done
sleep 1
by_hand() {
  cp -a "$shm/src" "$shm/copy"
  (cd "$shm/src" && sha256sum -- * > "$shm/sums")
  (cd "$shm/copy" && sha256sum --quiet -c "$shm/sums")
}
two_digests() { (cd "$shm/src" && printf '%s\0' * | xargs -0 -P 2 -n 4 openssl dgst -sha256 -r > "$shm/sums2"); }
carry() { $hand carry --from "$shm/src" --depot "file://$shm/depot" --parcel p "$@"; }
# Seconds that pass, and seconds of both processors: the second tells the program from the host that lends the machine.
both() { { TIMEFORMAT='%R %U %S'; time "$@" >"$work/last.log" 2>&1; } 2>&1 || { cat "$work/last.log" >&2; exit 1; }; }
a=() b=() c=() d=() cpu_c=() cpu_d=()
for round in $(seq "$rounds"); do
  rm -rf "$shm/copy"; a+=("$(seconds by_hand)"); rm -rf "$shm/copy"
  rm -rf "$shm/depot"; mkdir "$shm/depot"; b+=("$(seconds carry)")
  read -r real user system < <(both two_digests); c+=("$real"); cpu_c+=("$(awk "BEGIN {print $user + $system}")")
  rm -rf "$shm/depot"; mkdir "$shm/depot"; read -r real user system < <(both carry --no-read-back); d+=("$real"); cpu_d+=("$(awk "BEGIN {print $user + $system}")")
done
ma=$(middle "${a[@]}") mb=$(middle "${b[@]}") mc=$(middle "${c[@]}") md=$(middle "${d[@]}")
say "carry 8 big files, read back: $mb s; cp -a, sha256sum, sha256sum -c: $ma s; ratio $(ratio "$mb" "$ma") (0.40 wanted)"
say "  nothing read back: $md s; openssl dgst in two processes: $mc s; ratio $(ratio "$md" "$mc") (1.2 wanted)"
mc=$(middle "${cpu_c[@]}") md=$(middle "${cpu_d[@]}")
say "    in seconds of both processors: $md and $mc; ratio $(ratio "$md" "$mc")"
rm -rf "$shm/src" "$shm/depot"
