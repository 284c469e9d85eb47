#!/usr/bin/env bash
# Installs what the lock file names and builds the front end; with "verify" checks and tests it
# instead. Skips what has not changed.
set -euo pipefail
cd "$(dirname "$0")"

stamp() { # of every file that decides the result
  find package.json package-lock.json index.html ./*.ts ./*.js .prettierrc.json openapi.json src ../docs/guide ../docs/screenshots -type f ! -name schema.d.ts -print0 2>/dev/null |
    sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1
}

unchanged() { # STAMP-FILE: whether it has been done for these very files
  [ "$(cat "$1" 2>/dev/null || true)" = "$now" ] && echo "Front end: nothing changed."
}

lock=$(sha256sum package-lock.json | cut -d' ' -f1)
if [ "$(cat node_modules/.lock-stamp 2>/dev/null || true)" != "$lock" ]; then
  echo "Installing the front end's packages..."
  npm ci --no-audit --no-fund --loglevel=error
  echo "$lock" > node_modules/.lock-stamp
fi

now=$(stamp)
if [ "${1:-build}" = verify ]; then
  # in another order everything is tested again
  if [ -z "${WARDEN_TEST_ORDER:-}" ] && unchanged target/verified; then
    exit 0
  fi
  npm run --silent verify
  mkdir -p target
  echo "$now" > target/verified
else
  if unchanged dist/.stamp; then
    exit 0
  fi
  npm run --silent types # of the API, from its committed description
  npm run --silent build
  echo "$now" > dist/.stamp
fi
