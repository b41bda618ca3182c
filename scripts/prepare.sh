# Shared by ./start and ./check: makes sure of Node, the packages of the lock, and Debian's packages.

prepare_node() {
  if ! command -v node >/dev/null 2>&1 || [ "$(node -p 'process.versions.node.split(".")[0]')" -lt 20 ]; then
    echo "Node 20 or newer is needed. Install it, then run this again." >&2
    exit 1
  fi
}

prepare_packages() {
  local wanted
  wanted=$(sha256sum package-lock.json | cut -d' ' -f1)
  if [ "$(cat node_modules/.bright-loom-lock 2>/dev/null || true)" != "$wanted" ]; then
    echo "installing packages (a minute or two, once)"
    npm ci --no-audit --no-fund --loglevel=error
    echo "$wanted" > node_modules/.bright-loom-lock
  fi
}

# $1: Debian package, $2: a path it brings.
prepare_debian() {
  [ -e "$2" ] && return 0
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
    echo "installing $1 with apt-get"
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$1" >/dev/null
  fi
  if [ ! -e "$2" ]; then
    echo "$1 is missing. Run: sudo apt-get install -y $1   and then this again." >&2
    exit 1
  fi
}
