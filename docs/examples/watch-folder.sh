#!/bin/sh
# Brings every LUT that is put into a folder in, then moves it to "in" or, with what was wrong beside it, to "not in".
# Run it from cron, or in a loop:  while sleep 10; do ./watch-folder.sh /srv/luts "Film/Prints"; done
folder=$1 category=$2
mkdir -p "$folder/in" "$folder/not in"
for file in "$folder"/*.cube "$folder"/*.clf "$folder"/*.3dl; do
  [ -f "$file" ] || continue
  if words=$(saucer remote push "$file" --category "$category" 2>&1); then
    mv "$file" "$folder/in/"
  else
    printf '%s\n' "$words" > "$folder/not in/$(basename "$file").txt"
    mv "$file" "$folder/not in/"
  fi
done
