#!/usr/bin/env bash
# Compiles what the tests start ahead for this kind of machine: programs that start hundreds of times, and suites that bring a whole
# service with them, spend most of their time in compiling themselves otherwise. Leaves out/quick/PART beside out/artifacts/bin/PART/release.
# Usage: scripts/quicken.sh PART... ; a library that did not change is not compiled again. Where it cannot be done, nothing is left.
source "$(dirname "$0")/lib.sh"
compiler=$(ls -d "${NUGET_PACKAGES:-$HOME/.nuget/packages}"/microsoft.netcore.app.crossgen2.linux-x64/*/tools 2>/dev/null | tail -1)
shared=$(dirname "$(readlink -f "$(command -v dotnet)")")/shared
if [ "$(uname -m)" != x86_64 ] || [ -z "$compiler" ] || [ ! -d "$shared" ]; then rm -rf out/quick; exit 0; fi
chmod +x "$compiler/crossgen2" 2>/dev/null || true
start=$SECONDS kept=out/quick/.libraries
mkdir -p "$kept"
references=()
for frame in Microsoft.NETCore.App Microsoft.AspNetCore.App; do references+=(-r "$(ls -d "$shared/$frame"/10.* | tail -1)/*.dll"); done
for part in "$@"; do references+=(-r "out/artifacts/bin/$part/release/*.dll"); done

# What few of these programs ever call, or only one that starts once: compiled as it is called, it costs less than ahead.
seldom='/(BouncyCastle|Microsoft\.(Testing|ApplicationInsights|Playwright|TestPlatform|OpenApi)|xunit|CsCheck|Shouldly|PdfSharp|MigraDoc|Markdig|MiniExcel|MimeKit|MailKit|Microsoft\.IdentityModel)'
# Each library once, by its content: several parts have the same.
for part in "$@"; do sha256sum "out/artifacts/bin/$part/release/"*.dll; done | sort -u -k1,1 | while read -r sum file; do
  [ -f "$kept/$sum" ] || [[ "$file" =~ $seldom ]] || printf '%s\0%s\0' "$file" "$kept/$sum"
done | xargs -0 -r -n 2 -P "$(nproc)" sh -c '
  compiler=$1; shift; out=$(eval "echo \${$#}"); eval "in=\${$(($# - 1))}"
  n=$(($# - 2)); i=0; set -- "$@"; references=""
  while [ $i -lt $n ]; do references="$references \"$1\""; shift; i=$((i + 1)); done
  # What cannot be compiled ahead, or is already, stays as it is.
  eval "\"$compiler\" \"$in\" -o \"$out.new\" $references --targetos linux --targetarch x64 -O" >/dev/null 2>&1 && mv "$out.new" "$out" || cp "$in" "$out"
' quicken "$compiler/crossgen2" "${references[@]}"

for part in "$@"; do
  rm -rf "out/quick/$part"; mkdir -p "out/quick/$part"
  cp -r "out/artifacts/bin/$part/release/." "out/quick/$part/"
  for file in "out/quick/$part/"*.dll; do
    sum=$(sha256sum "$file" | cut -d' ' -f1)
    [ ! -f "$kept/$sum" ] || cp "$kept/$sum" "$file"
  done
done
[ $((SECONDS - start)) -lt 2 ] || say "Compiled ahead for the tests in $((SECONDS - start)) s."
