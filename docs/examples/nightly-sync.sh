#!/bin/sh
# Everything that is published, as files in the LUT folder of another program; what was published before and is not any more goes.
#   0 4 * * *  nightly-sync.sh "/srv/program/LUT/Studio" cube 33
set -e
folder=$1 format=$2 size=$3
new=$(mktemp -d "$folder.XXXXXX")
saucer remote find --published | while IFS="$(printf '\t')" read -r kind number _ _; do
  [ "$kind" = preset ] || saucer remote pull "$number" --format "$format" --size "$size" -o "$new" > /dev/null
done
# Put in place at once: nobody finds half of it.
old=$(mktemp -d "$folder.XXXXXX")
[ -d "$folder" ] && mv -T "$folder" "$old/before"
mv -T "$new" "$folder"
rm -rf "$old"
