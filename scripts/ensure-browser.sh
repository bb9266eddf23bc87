#!/bin/sh
# Chromium for the browser tests, from Debian's packages where it is missing and may be installed.
set -eu
if command -v chromium >/dev/null 2>&1; then exit 0; fi
if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
  apt-get update -qq
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium fonts-dejavu-core
else
  echo "The browser tests need Chromium. Install it: apt-get install chromium fonts-dejavu-core" >&2
  exit 1
fi
