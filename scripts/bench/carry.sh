# Many small files to a folder depot, read back, against cp -a and a digest at both ends; in memory and on the disk. On the disk both bring
# what they wrote onto it and read it back from there: what the kernel keeps of it is dropped first.
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
