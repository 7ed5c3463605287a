#!/usr/bin/env bash
# Debian packages that are missing: "server" for PostgreSQL, "browser" for the tests' Chromium and proxy.
set -euo pipefail

want=()
case "$1" in
  server)
    compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null || command -v initdb >/dev/null || want+=(postgresql)
    python3 -c 'import venv, ensurepip' 2>/dev/null || want+=(python3-venv)
    ;;
  browser)
    [ -x /usr/bin/chromium-headless-shell ] || want+=(chromium-headless-shell)
    # The configuration for an operator's proxy is tried with the proxy itself.
    command -v nginx >/dev/null || [ -x /usr/sbin/nginx ] || want+=(nginx-light)
    command -v openssl >/dev/null || want+=(openssl)
    ;;
  *)
    echo "usage: $0 server|browser" >&2
    exit 2
    ;;
esac
[ ${#want[@]} -eq 0 ] && exit 0

as_root=()
if [ "$(id -u)" -ne 0 ]; then
  command -v sudo >/dev/null || { echo "Please install: ${want[*]} (apt-get install ${want[*]})" >&2; exit 1; }
  as_root=(sudo)
fi
echo "Installing Debian packages: ${want[*]}"
"${as_root[@]}" apt-get update -qq
DEBIAN_FRONTEND=noninteractive "${as_root[@]}" apt-get install -y -qq --no-install-recommends "${want[@]}" >/dev/null
