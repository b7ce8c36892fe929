#!/usr/bin/env bash
# Builds into out/; done within a second when nothing changed. Leaves out/bin/{yardrelay,yardline,yardhand,yardstand}.
# Usage: scripts/build.sh [--checked | --release]
#   (nothing)   the four programs and the console, as a demo runs them
#   --checked   all projects, tests too, with analysers, and the description of the API that the console is made from
#   --release   the four programs compiled ahead for this kind of machine, in out/app, so that they start at once
source "$(dirname "$0")/lib.sh"

kind=${1:---lean}
case $kind in --lean | --checked | --release) ;; *) say "build.sh: '$kind' is not known. See its top."; exit 2 ;; esac
stamp=out/.built$kind
mkdir -p out

# What a program is made from. Files that the build itself writes do not count.
changed() { # stamp, what...
  local stamp=$1; shift
  [ ! -f "$stamp" ] || [ -n "$(find "$@" \( -name node_modules -o -name dist -o -name TestResults \) -prune -o -newer "$stamp" \( -type f -o -type d \) ! -name openapi.json ! -path '*/generated*' -print -quit 2>/dev/null)" ]
}

# One compiler for all projects, that stays for the next build; instrumented code is not worth it for a program that runs for a minute.
build() { # obj folder, then what dotnet takes
  local obj=$1 restore=(); shift
  # Packages are looked after only where a project or a version changed.
  [ ! -f "$obj/Service/project.assets.json" ] || [ -n "$(find src tests bench -name '*.csproj' -newer "$obj/Service/project.assets.json" -print -quit)" ] || [ Directory.Packages.props -nt "$obj/Service/project.assets.json" ] || restore=(--no-restore)
  UseSharedCompilation=true DOTNET_TieredPGO=0 DOTNET_TC_CallCountThreshold=200 dotnet build -c Release -v quiet --nologo "-clp:ErrorsOnly;NoSummary" "${restore[@]}" "$@"
}

# The console needs no more than a bundler; what checks and tests it comes with --checked.
make_console() {
  local lock=console/node_modules/.package-lock.json omit=--omit=dev
  [ $kind = --lean ] || omit=--include=dev
  if [ ! -f $lock ] || [ console/package-lock.json -nt $lock ] || { [ $kind != --lean ] && [ ! -e console/node_modules/.bin/vitest ]; }; then
    (cd console && npm ci $omit --no-audit --no-fund --loglevel=error >/dev/null)
  fi
  changed out/.console console/src console/public console/*.* || return 0
  # A bundler leaves types out: what the API looks like is only asked for where types are checked.
  (cd console && npm run --silent bundle)
  touch out/.console
}

start=$SECONDS
case $kind in
  --lean)
    folder=out/lean/bin
    if changed $stamp src Directory.*.props global.json Run.slnf scripts/build.sh || changed out/.console console/src console/public console/*.*; then
      say "Building the programs and, beside them, the console (1 to 3 minutes on two cores the first time)"
      make_console & console=$!
      build out/lean/obj Run.slnf -p:Lean=true || { kill $console 2>/dev/null || true; exit 1; }
      wait $console
    fi ;;
  --checked)
    folder=out/artifacts/bin
    if changed $stamp src tests bench Directory.*.props .editorconfig global.json YardRelay.slnx scripts/build.sh; then
      say "Building all projects, with analysers (3 to 5 minutes on two cores the first time)"
      make_console & console=$!
      build out/artifacts/obj YardRelay.slnx || { kill $console 2>/dev/null || true; exit 1; }
      wait $console
    fi
    make_console ;;
  --release)
    folder=out/app
    scripts/build.sh --checked
    if changed $stamp src Directory.*.props global.json scripts/build.sh; then
      say "Compiling the programs ahead (2 to 4 minutes)"
      for part in Service Line Hand Stand; do
        dotnet publish "src/$part" -c Release -r linux-x64 --no-restore --no-self-contained -p:OpenApiGenerateDocumentsOnBuild=false -p:RunAnalyzers=false -o "out/app/$part" -v quiet --nologo
      done
    fi ;;
esac

release=/release; [ $kind = --release ] && release=""
if [ out/.console -nt "$folder/Service$release/console/index.html" ]; then
  rm -rf "$folder/Service$release/console"
  cp -r console/dist "$folder/Service$release/console"
  touch "$folder/Service$release/console/index.html"
fi
starters "$folder" "$release"
touch "$stamp"
[ $((SECONDS - start)) -lt 2 ] || say "Built in $((SECONDS - start)) s."
