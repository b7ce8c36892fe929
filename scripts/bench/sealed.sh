# Sealed parcels against tar, age and two openssl dgst over the same data.
make_small "$work/src" "$files" 36000
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
rm -rf "$work/depot" "$work/new" "$work/src"
