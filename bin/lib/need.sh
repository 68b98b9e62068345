# Shared by the commands in bin: what must be there, and building what changed. Sourced from the checkout's root.

say() { printf '%s\n' "$*" >&2; }

# install PACKAGE... where this user may; else say the exact command and stop.
install_packages() {
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    say "installing $*"
    { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@"; } >/dev/null 2>&1 || {
      say "could not install $*; try: apt-get install $*"
      exit 1
    }
  else
    say "missing: $*. Install it with: sudo apt-get install $*"
    exit 1
  fi
}

need_tools() {
  command -v go >/dev/null || { [ -x /usr/local/go/bin/go ] && PATH=$PATH:/usr/local/go/bin; } || {
    say 'Go is missing; see https://go.dev/doc/install'
    exit 1
  }
  command -v npm >/dev/null || {
    say 'Node.js with npm is missing. Install it with: sudo apt-get install nodejs npm'
    exit 1
  }
}

need_mariadb() {
  command -v mariadbd >/dev/null || [ -x /usr/sbin/mariadbd ] || install_packages mariadb-server
}

need_chromium() {
  command -v chromium-headless-shell >/dev/null || install_packages chromium-headless-shell
}

# The installed packages belong to the lock file they were installed from.
need_packages() {
  sum=$(sha256sum package-lock.json | cut -d' ' -f1)
  if [ "$(cat node_modules/.perch-lock 2>/dev/null)" != "$sum" ]; then
    npm ci --no-audit --no-fund --loglevel=error >&2
    echo "$sum" >node_modules/.perch-lock
  fi
}

build_program() { go build -o build/perch ./cmd/perch; }

# Builds the page when its sources are not the ones the last build was made from.
build_page() {
  sum=$(find ui package-lock.json -type f -not -path 'ui/built/*' -not -path 'ui/node_modules/*' -exec sha256sum {} + | LC_ALL=C sort -k2 | sha256sum | cut -d' ' -f1)
  if [ "$(cat ui/built/.sum 2>/dev/null)" != "$sum" ]; then
    need_packages
    (cd ui && npx vite build --logLevel warn >&2)
    echo "$sum" >ui/built/.sum
  fi
}
