#!/usr/bin/env bash
# Starts the program in a real window on a new library and sees that it stays up and leaves on a signal.
set -u
program=$1
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
unset QT_QPA_PLATFORM
export XDG_RUNTIME_DIR=$folder
xvfb-run -a -s "-screen 0 1280x800x24" timeout --preserve-status -s TERM 8 "$program" --library "$folder/library" 2>"$folder/log"
code=$?
cat "$folder/log"
if [ $code -ne 143 ] && [ $code -ne 0 ]; then
    echo "0 passed, 1 failed: the window left with $code"
    exit 1
fi
[ -f "$folder/library/library.db" ] || { echo "0 passed, 1 failed: no library was made"; exit 1; }
echo "1 passed, 0 failed"
