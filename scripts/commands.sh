#!/usr/bin/env bash
# Writes docs/commands.md: all that yardline can do, from the program's own help.
# Usage: scripts/commands.sh
source "$(dirname "$0")/lib.sh"
[ -n "${YARD_BUILT:-}" ] || scripts/build.sh --checked >/dev/null
out/artifacts/bin/Line/release/yardline help --markdown > docs/commands.md
