#!/usr/bin/env bash
# Each file of compile_fail/ compiles as it stands and must not compile with -DWRONG: strong types do not mix.
set -u
compiler=$1 root=$2
failed=0 passed=0
for file in "$root"/tests/compile_fail/*.cpp; do
    name=$(basename "$file" .cpp)
    if ! "$compiler" -std=c++20 -fsyntax-only -I"$root/src" "$file" 2>/tmp/compile_fail.$$; then
        cat /tmp/compile_fail.$$
        echo "FAIL $name does not compile even without WRONG"
        failed=$((failed + 1))
    elif "$compiler" -std=c++20 -fsyntax-only -DWRONG -I"$root/src" "$file" 2>/dev/null; then
        echo "FAIL $name compiles although it must not"
        failed=$((failed + 1))
    else
        passed=$((passed + 1))
    fi
done
rm -f /tmp/compile_fail.$$
echo "$passed passed, $failed failed"
[ $failed -eq 0 ] && [ $passed -gt 0 ]
