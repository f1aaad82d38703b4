#!/bin/sh
# Installs the Debian packages named as arguments that are missing: as root at once, else the exact command is shown.
set -u
command -v dpkg-query >/dev/null 2>&1 || { echo "no dpkg here: please install what matches: $*"; exit 0; }
missing=""
for name in "$@"; do
    dpkg-query -W -f='${Status}' "$name" 2>/dev/null | grep -q "install ok installed" || missing="$missing $name"
done
[ -z "$missing" ] && exit 0
if [ "$(id -u)" = 0 ]; then
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $missing >/dev/null && exit 0
    echo "these system packages could not be installed:$missing" >&2
    exit 1
fi
echo "Yellow Hinge needs some system packages. Please run this once, then try again:"
echo "    sudo apt-get install -y --no-install-recommends$missing"
