# Many small files to a folder depot, read back, against cp -a and a digest at both ends; in memory and on the disk.
carry() { $hand carry --from "$at/src" --depot "file://$at/depot" --parcel p; }
for place in memory disk; do
  [ $place = memory ] && { at=$shm wanted=0.45; } || { at=$work wanted=0.55; }
  make_small "$at/src" "$files" 36000
  sleep 1; a=() b=()
  for round in $(seq "$rounds"); do
    rm -rf "$at/copy"; a+=("$(seconds by_hand)")
    rm -rf "$at/copy" "$at/depot"; mkdir "$at/depot"; b+=("$(seconds carry)")
  done
  ma=$(middle "${a[@]}") mb=$(middle "${b[@]}")
  say "carry $files files in the $place, read back: $mb s; cp -a, sha256sum, sha256sum -c: $ma s; ratio $(ratio "$mb" "$ma") ($wanted wanted)"
  rm -rf "$at/src" "$at/depot" "$at/copy"
done
