#!/usr/bin/env bash
# Builds what is released into dist/: static binaries, a Debian package, checksums and a list of
# what is in them (CycloneDX). All is built twice, the second time from a clone at another place,
# and must come out equal.
set -euo pipefail
cd "$(dirname "$0")/.."

version=$(git describe --tags --always --dirty)
export SOURCE_DATE_EPOCH CGO_ENABLED=0
SOURCE_DATE_EPOCH=$(git log -1 --format=%ct)
targets=${TARGETS:-linux/amd64 linux/arm64 windows/amd64 darwin/arm64}

# binaries builds for all targets from a checkout into a folder.
binaries() {
  local from=$1 into=$2 target ending
  mkdir -p "$into"
  for target in $targets; do
    ending=
    [ "${target%/*}" != windows ] || ending=.exe
    (cd "$from" && GOOS=${target%/*} GOARCH=${target#*/} go build -trimpath -buildvcs=false \
      -ldflags="-s -w -buildid= -X main.stamped=$version" -o "$into/kolvan-${target%/*}-${target#*/}$ending" ./cmd/kolvan)
  done
}

# package makes a Debian package of one of the Linux binaries.
package() {
  local into=$1 arch=$2 root
  root=$(mktemp -d)
  install -Dm755 "$into/kolvan-linux-$arch" "$root/usr/bin/kolvan"
  install -Dm644 packaging/kolvan.service "$root/usr/lib/systemd/system/kolvan.service"
  install -Dm644 packaging/kolvan.desktop "$root/usr/share/applications/kolvan.desktop"
  install -Dm644 THIRD_PARTY.md "$root/usr/share/doc/kolvan/copyright"
  install -d "$root/usr/share/man/man1" "$root/usr/share/bash-completion/completions" "$root/DEBIAN"
  gzip -n9c docs/kolvan.1 > "$root/usr/share/man/man1/kolvan.1.gz"
  echo 'complete -o default -o bashdefault -C /usr/bin/kolvan kolvan' > "$root/usr/share/bash-completion/completions/kolvan"
  cat > "$root/DEBIAN/control" <<CONTROL
Package: kolvan
Version: 0~git$(date -u -d "@$SOURCE_DATE_EPOCH" +%Y%m%d).$(git rev-parse --short HEAD)
Architecture: $arch
Maintainer: the founders of Kolvan <founders@kolvan.invalid>
Section: utils
Priority: optional
Description: plans a discrete graphics card on a small host
 Works out the lanes a card really gets and why, sizes the supply down to each
 pin and wire, checks that everything fits, plans assembly and power-on, and
 proves, prices and documents the result.
CONTROL
  find "$root" -exec touch -hd "@$SOURCE_DATE_EPOCH" {} +
  dpkg-deb --root-owner-group -Zxz --build "$root" "$into/kolvan_$arch.deb" > /dev/null
  rm -rf "$root"
}

# all builds everything from a checkout into a folder.
all() {
  local target
  binaries "$1" "$2"
  for target in $targets; do
    [ "${target%/*}" != linux ] || package "$2" "${target#*/}"
  done
}

rm -rf dist
again=$(mktemp -d)
trap 'rm -rf "$again"' EXIT
all "$PWD" "$PWD/dist"
git clone -q "$PWD" "$again/kolvan"
all "$again/kolvan" "$again/dist"
for file in dist/*; do
  cmp "$file" "$again/dist/$(basename "$file")" || { echo "$file is not built alike twice"; exit 1; }
done
if [ -z "${NO_SBOM:-}" ]; then
  go run github.com/CycloneDX/cyclonedx-gomod/cmd/cyclonedx-gomod@v1.9.0 app -json -licenses -noserial -main cmd/kolvan -output dist/kolvan.cdx.json .
fi
(cd dist && sha256sum -- * > SHA256SUMS)
ls -l dist
