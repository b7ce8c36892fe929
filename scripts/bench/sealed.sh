# Sealed parcels against tar, age and two openssl dgst over the same data, in memory.
make_small "$shm/src" "$files" 36000
age-keygen -o "$work/key" 2>/dev/null; recipient=$(age-keygen -y "$work/key")
export XDG_STATE_HOME="$shm/state" TMPDIR="$shm"
by_pipeline() {
  mkfifo "$shm/one" "$shm/two"
  openssl dgst -sha256 < "$shm/one" > "$shm/sum1" & local first=$!
  openssl dgst -sha256 < "$shm/two" > "$shm/sum2" & local second=$!
  tar --format=pax -C "$shm/src" -cf - . | tee "$shm/one" | age -r "$recipient" | tee "$shm/two" > "$shm/sealed.tar.age"
  wait $first $second
  rm "$shm/one" "$shm/two"
}
seal() { $hand carry --from "$shm/src" --depot "file://$shm/depot" --parcel s --seal-to "$recipient"; }
unseal() { $hand restore --depot "file://$shm/depot" --parcel s --to "$shm/new"; }
a=() b=() c=()
for round in $(seq "$rounds"); do
  rm -f "$shm/sealed.tar.age"; a+=("$(seconds by_pipeline)")
  rm -rf "$shm/depot"; mkdir "$shm/depot"; b+=("$(seconds seal)")
  rm -rf "$shm/new"; c+=("$(seconds unseal)")
done
ma=$(printf '%s\n' "${a[@]}" | median) mb=$(printf '%s\n' "${b[@]}" | median) mc=$(printf '%s\n' "${c[@]}" | median)
say "sealed carry, read back: $mb s; tar, age and two openssl dgst, not read back: $ma s; ratio $(ratio "$mb" "$ma") (1.15 or better); restore $mc s, $(ratio "$mc" "$mb") of the carry (1.0 or better)"
say "peak memory of the hand sealed: restore $(peak $hand restore --depot "file://$shm/depot" --parcel s --to "$shm/new") MB, carry $(rm -rf "$shm/depot"; mkdir "$shm/depot"; peak $hand carry --from "$shm/src" --depot "file://$shm/depot" --parcel s --seal-to "$recipient") MB (under 250)"
rm -rf "$shm/depot" "$shm/new" "$shm/src"
