#!/bin/sh
# `make release`: everything that has to be right before a version is handed out; says what is missing.
cd "$(dirname "$0")/.." || exit 1
missing=0
say() { echo "missing: $1"; missing=1; }
version=$(.venv/bin/python -c 'import yellow_hinge; print(yellow_hinge.__version__)')
grep -q "^## $version$" CHANGELOG.md || say "CHANGELOG.md has no heading $version"
[ -z "$(git status --porcelain)" ] || say "there are changes that are not committed"
git tag --list "v$version" | grep -q . || say "no tag v$version (make it last)"
for target in check fuzz sweep kills bench package package-test; do
    make "$target" > "build/release-$target.log" 2>&1 || say "make $target fails, see build/release-$target.log"
done
[ "$missing" = 0 ] && echo "$version is ready"
exit "$missing"
