# The hand's peak memory: very many names, and one file that is almost all holes.
names=1000000; small && names=50000
make_small "$shm/src" "$names" 100; mkdir -p "$shm/depot"
say "peak memory of the hand on $names files: carry $(peak $hand carry --from "$shm/src" --depot "file://$shm/depot" --parcel p) MB, again $(peak $hand carry --from "$shm/src" --depot "file://$shm/depot" --parcel p) MB, survey $(peak $hand survey --from "$shm/src" --json) MB, verify $(peak $hand verify --depot "file://$shm/depot" --parcel p) MB, restore $(peak $hand restore --depot "file://$shm/depot" --parcel p --to "$shm/new") MB (under 250)"
rm -rf "$shm/src" "$shm/depot" "$shm/new"; mkdir -p "$shm/src" "$shm/depot"
gb=100; small && gb=2
truncate -s "${gb}G" "$shm/src/disk.img"; for at in 1 700 900; do printf 'quay' | dd of="$shm/src/disk.img" bs=1M seek=$at conv=notrunc status=none; done
out/bin/yardstand cloud --help >/dev/null
say "peak memory of the hand on a sparse file of $gb GB: carry $(peak $hand carry --from "$shm/src" --depot "file://$shm/depot" --parcel p --no-read-back) MB (under 250); in the depot it takes $(du -m "$shm/depot" | tail -1 | cut -f1) MB"
rm -rf "$shm/src" "$shm/depot"
