#!/usr/bin/env bash
# Builds what ships in src/marquetry/web/static from npm packages: styles, the script library, fonts, licences.
# `--css FILE` writes only the styles, to FILE; a test compares that with what is committed.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
static=src/marquetry/web/static
css=$static/css/app.css
[ "${1:-}" = --css ] && css=$2
node_modules/.bin/tailwindcss -i styles/app.css -o "$css" --minify 2>/dev/null
[ "${1:-}" = --css ] && exit 0
cp node_modules/@alpinejs/csp/dist/cdn.min.js $static/vendor/alpine-csp.min.js
# The turning preview's library: only the page of a made part loads it.
cp node_modules/three/build/three.module.min.js node_modules/three/build/three.core.min.js $static/vendor/
cp node_modules/three/LICENSE $static/vendor/three.LICENSE
font() { # package, licence's name here, files…
  cp "node_modules/$1/LICENSE" "$static/fonts/$2.LICENSE"
  for file in "${@:3}"; do cp "node_modules/$1/files/$file" "$static/fonts/$file"; done
}
font @fontsource-variable/fraunces fraunces fraunces-latin-wght-normal.woff2
font @fontsource-variable/atkinson-hyperlegible-next atkinson-hyperlegible-next atkinson-hyperlegible-next-latin-wght-normal.woff2
font @fontsource/ibm-plex-mono ibm-plex-mono ibm-plex-mono-latin-400-normal.woff2 ibm-plex-mono-latin-600-normal.woff2
