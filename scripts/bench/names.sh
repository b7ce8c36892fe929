# A second trip with nothing new, and a survey, against find that prints the same names.
names=200000; small && names=20000
make_small "$shm/src" "$names" 300; mkdir -p "$shm/depot"; sleep 1
look() { find "$shm/src" -printf '%s %T@ %p\n'; }
again() { $hand carry --from "$shm/src" --depot "file://$shm/depot" --parcel p; }
again > /dev/null
a=() b=() c=()
for round in $(seq $((rounds * 2 + 1))); do
  a+=("$(seconds look)"); b+=("$(seconds again)"); c+=("$(seconds $hand survey --from "$shm/src" --json)")
done
ma=$(middle "${a[@]}") mb=$(middle "${b[@]}") mc=$(middle "${c[@]}")
say "second trip over $names files, nothing changed: $mb s; find -printf: $ma s; ratio $(ratio "$mb" "$ma") (2.5 wanted)"
say "survey of $names files: $mc s; ratio $(ratio "$mc" "$ma") (1.5 wanted)"
rm -rf "$shm/src" "$shm/depot"
