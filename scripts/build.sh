#!/usr/bin/env bash
# Builds everything into out/; done at once when nothing changed. Leaves out/bin/{yardrelay,yardline,yardhand,yardstand}.
source "$(dirname "$0")/lib.sh"

stamp=out/.built
if [ -f "$stamp" ] && [ -z "$(find src console bench demo tests scripts/build.sh Directory.*.props .editorconfig global.json YardRelay.slnx \( -name node_modules -o -name dist -o -name TestResults \) -prune -o -newer "$stamp" \( -type f -o -type d \) ! -name openapi.json ! -path '*/generated*' -print -quit 2>/dev/null)" ]; then
  exit 0
fi

say "Building the .NET parts (about a minute the first time)"
dotnet build YardRelay.slnx -c Release -v quiet --nologo

# Compiled ahead for this kind of machine, so that programs start at once and the service is ready within seconds.
ahead=false
if [ "$(uname -m)" = x86_64 ]; then
  say "Compiling the programs ahead"
  ahead=true
  for part in Service Line Hand Stand; do
    dotnet publish "src/$part" -c Release -r linux-x64 --no-restore --no-self-contained -p:OpenApiGenerateDocumentsOnBuild=false -o "out/app/$part" -v quiet --nologo
  done
fi

if [ -f console/package.json ]; then
  if [ ! -f console/node_modules/.package-lock.json ] || [ console/package-lock.json -nt console/node_modules/.package-lock.json ]; then
    say "Installing the console's packages"
    (cd console && npm ci --no-audit --no-fund --loglevel=error)
  fi
  say "Building the console"
  (cd console && npm run --silent build)
  rm -rf out/artifacts/bin/Service/release/console
  cp -r console/dist out/artifacts/bin/Service/release/console
  if $ahead; then rm -rf out/app/Service/console; cp -r console/dist out/app/Service/console; fi
fi

mkdir -p out/bin
for pair in yardrelay:Service yardline:Line yardhand:Hand yardstand:Stand; do
  name=${pair%%:*}
  cat > "out/bin/$name" <<EOF
#!/bin/sh
exec dotnet "$root/$($ahead && echo "out/app/${pair##*:}" || echo "out/artifacts/bin/${pair##*:}/release")/$name.dll" "\$@"
EOF
  chmod +x "out/bin/$name"
done
touch "$stamp"
