#!/usr/bin/env bash
# fuzz_films.sh BUILD SECONDS: builds the libFuzzer target with clang and lets it run so long on a corpus of small films.
set -euo pipefail
root=$(cd "$(dirname "$0")/../.." && pwd)
build=$1
seconds=$2
mkdir -p "$build/corpus"
clang++-14 -std=c++20 -g -O1 -fsanitize=fuzzer,address,undefined -fno-sanitize=vptr -I"$root/src" \
    "$root"/tests/fuzz/film_fuzz.cpp "$root"/src/media/{film,film_index,frame_cache,decoded_frame,picture_converter,container_source,picture_folder_source}.cpp \
    $(pkg-config --cflags --libs libavformat libavcodec libavutil libswscale) -lyuv -o "$build/film_fuzz"
make_film() { ffmpeg -y -v error -f lavfi -i testsrc2=s=64x48:r=10:d=1 "$@"; }
make_film -c:v libx264 -g 4 -bf 2 "$build/corpus/h264.mp4"
make_film -c:v libx264 -g 4 -movflags frag_keyframe+empty_moov "$build/corpus/fragments.mp4"
make_film -c:v libvpx "$build/corpus/vp8.webm"
make_film -c:v mjpeg "$build/corpus/mjpeg.avi"
make_film -c:v mpeg2video "$build/corpus/mpeg2.ts"
make_film -frames:v 1 "$build/corpus/one.png"
"$build/film_fuzz" -max_total_time="$seconds" -timeout=30 -rss_limit_mb=4096 -max_len=60000 -artifact_prefix="$build/" -print_final_stats=1 \
    "$build/corpus" 2>&1 | tail -12
