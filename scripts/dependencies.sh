#!/usr/bin/env bash
# Writes docs/dependencies.md: what the product stands on, with versions and licences, as the last build took it.
# Usage: scripts/dependencies.sh [--check]
#   --check   writes nothing; ends with 1 where the page is not what it would write
source "$(dirname "$0")/lib.sh"
need python3=python3
[ -n "${YARD_BUILT:-}" ] || scripts/build.sh --checked >/dev/null

python3 - "${1:-}" <<'EOF'
import glob, json, os, re, sys
import xml.etree.ElementTree as xml

page = "docs/dependencies.md"
direct = set(re.findall(r'PackageVersion Include="([^"]+)"', open("Directory.Packages.props").read()))

def licence(folder):
    spec = glob.glob(os.path.join(folder, "*.nuspec"))
    if not spec: return "not said"
    root = xml.parse(spec[0]).getroot()
    of = lambda name: next((e for e in root.iter() if e.tag.split("}")[-1] == name), None)
    said = of("license")
    if said is not None: return said.text if said.get("type") == "expression" else f"its file {said.text}"
    url = of("licenseUrl")
    return "as its address says" if url is not None else "not said"

found = {}
for assets in sorted(glob.glob("out/artifacts/obj/*/project.assets.json")):
    project = assets.split("/")[-2]
    read = json.load(open(assets))
    ships = os.path.isdir(f"src/{project}")
    for name, library in read["libraries"].items():
        if library["type"] != "package": continue
        key = tuple(name.split("/"))
        folder = next((os.path.join(f, library["path"]) for f in read["packageFolders"] if os.path.isdir(os.path.join(f, library["path"]))), "")
        known = found.get(key, (False, ""))
        found[key] = (known[0] or ships, known[1] or licence(folder))

lock = json.load(open("console/package-lock.json"))["packages"]
wanted = {**lock[""].get("dependencies", {}), **lock[""].get("devDependencies", {})}
browser = {}
for path, package in lock.items():
    if not path or package.get("optional"): continue
    name = path.split("node_modules/")[-1]
    said = package.get("license", "not said")
    browser[(name, package["version"])] = (not package.get("dev"), said, name in wanted)

def table(rows):
    return ["| package | version | licence |", "| --- | --- | --- |"] + [f"| {n} | {v} | {l} |" for n, v, l in sorted(rows, key=lambda r: r[0].lower())]

lines = ["# Dependencies", "",
    "Written by `scripts/dependencies.sh` from what the build took; it is not edited by hand. **Bold** is what this code names itself, the",
    "rest comes with that. Versions are fixed in `Directory.Packages.props` and `console/package-lock.json`. Where this was written no registry",
    "answers about known faults: ask one where there is one (`dotnet list package --vulnerable --include-transitive`, `npm audit`).", "",
    "The programs run on .NET 10 and ASP.NET Core 10 (MIT).", ""]
mark = lambda name, is_direct: f"**{name}**" if is_direct else name
for title, ships in (("In the programs", True), ("For building and testing only", False)):
    lines += [f"## {title}", ""] + table([(mark(n, n in direct), v, l) for (n, v), (s, l) in found.items() if s == ships]) + [""]
for title, ships in (("In the console, and what bundles it", True), ("For checking and testing the console only", False)):
    lines += [f"## {title}", ""] + table([(mark(n, d), v, l) for (n, v), (s, l, d) in browser.items() if s == ships]) + [""]
text = "\n".join(lines).rstrip() + "\n"
if sys.argv[1] == "--check":
    if not os.path.exists(page) or open(page).read() != text:
        print(f"{page} is not what the build took. Run scripts/dependencies.sh.")
        sys.exit(1)
else:
    open(page, "w").write(text)
    print(f"{page}: {sum(1 for s, _ in found.values() if s)} packages in the programs, {sum(1 for s, _, _ in browser.values() if s)} in the console.")
EOF
