#!/bin/sh
# Builds the front end with the machine's npm. Types come from the committed OpenAPI document.
set -e
cd "$(dirname "$0")"
if [ ! -d node_modules ] || [ package-lock.json -nt node_modules/.stamp ]; then
  # Not "npm ci": it refuses a lock file without the binaries of other platforms, which not every registry mirror has.
  npm install --no-save --no-audit --no-fund --loglevel=error
  touch node_modules/.stamp
fi
npm run --silent build
# What the front end is made of, as CycloneDX, beside it in the jar.
mkdir -p target/classes/META-INF/sbom
npm sbom --silent --sbom-format cyclonedx --omit dev --package-lock-only >target/classes/META-INF/sbom/web.cdx.json
