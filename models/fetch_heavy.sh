#!/usr/bin/env bash
# Fetches the largest pose network from the npm package the others come from, and checks it.
set -euo pipefail
cd "$(dirname "$(readlink -f "$0")")"
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT
(cd "$scratch" && npm pack --silent @mediapipe/pose@0.5.1675469404 >/dev/null && tar xzf ./*.tgz package/pose_landmark_heavy.tflite)
echo "$(cut -d' ' -f1 <heavy.sha256)  $scratch/package/pose_landmark_heavy.tflite" | sha256sum --check --quiet
mv "$scratch/package/pose_landmark_heavy.tflite" .
