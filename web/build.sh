#!/usr/bin/env bash
# Installs what the lock file names, checks and builds the front end. Skips what has not changed.
set -euo pipefail
cd "$(dirname "$0")"

stamp() { # of every file that decides the result
  find package.json package-lock.json index.html ./*.ts ./*.js .prettierrc.json openapi.json src ../docs/guide ../docs/screenshots -type f ! -name schema.d.ts -print0 2>/dev/null |
    sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1
}

lock=$(sha256sum package-lock.json | cut -d' ' -f1)
if [ "$(cat node_modules/.lock-stamp 2>/dev/null || true)" != "$lock" ]; then
  echo "Installing the front end's packages..."
  npm ci --no-audit --no-fund --loglevel=error
  echo "$lock" > node_modules/.lock-stamp
fi

now=$(stamp)
# in another order everything is tested again
if [ -z "${WARDEN_TEST_ORDER:-}" ] && [ "$(cat dist/.stamp 2>/dev/null || true)" = "$now" ]; then
  echo "Front end: nothing changed."
  exit 0
fi
npm run --silent types # of the API, from its committed description
# ./warden openapi needs the server to write the types that the checks would ask for
[ -n "${WARDEN_WEB_UNCHECKED:-}" ] || npm run --silent verify
npm run --silent build
[ -n "${WARDEN_WEB_UNCHECKED:-}" ] || stamp > dist/.stamp
