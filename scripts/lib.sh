# Shared by the scripts: where things are, and what a fresh machine lacks.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root"
export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1 DOTNET_SKIP_FIRST_TIME_EXPERIENCE=1 MSBUILDTERMINALLOGGER=off

say() { printf '%s\n' "$*"; }

# Installs Debian packages that are missing. Each argument is PROGRAM=PACKAGE.
need() {
  local missing=() pair
  for pair in "$@"; do
    [ -e "${pair%%=*}" ] || command -v "${pair%%=*}" >/dev/null 2>&1 || missing+=("${pair#*=}")
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  say "Installing from Debian: ${missing[*]}"
  local sudo=""
  [ "$(id -u)" -eq 0 ] || sudo=sudo
  $sudo apt-get update -qq
  DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

# Leaves out/bin/{yardrelay,yardline,yardhand,yardstand}: starters of what lies in FOLDER/PART, and in FOLDER/PART/release where that is said.
starters() { # folder, what comes behind the part
  local pair name
  mkdir -p out/bin
  for pair in yardrelay:Service yardline:Line yardhand:Hand yardstand:Stand; do
    name=${pair%%:*}
    printf '#!/bin/sh\nexec dotnet "%s" "$@"\n' "$root/$1/${pair##*:}$2/$name.dll" > "out/bin/$name"
    chmod +x "out/bin/$name"
  done
}

# A port that nothing listens on, below those that the system gives to connections by itself: nobody takes it in between.
free_port() {
  local port
  while port=$((14000 + RANDOM % 6000)); (: </dev/tcp/127.0.0.1/$port) 2>/dev/null; do :; done
  echo $port
}
