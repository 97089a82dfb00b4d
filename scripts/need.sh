#!/usr/bin/env bash
# Makes sure that programs from Debian's packages are there: need.sh ffmpeg chromium
set -euo pipefail

declare -A program=([ffmpeg]=ffprobe [chromium]=chromium)
missing=()
for package in "$@"; do
  command -v "${program[$package]:-$package}" >/dev/null || missing+=("$package")
done
for tool in cargo node npm; do
  if ! command -v "$tool" >/dev/null; then
    echo "Umlauf needs $tool, which is not installed: see the README, “What you need”." >&2
    exit 1
  fi
done
[ ${#missing[@]} -eq 0 ] && exit 0

as_root=()
if [ "$(id -u)" -ne 0 ]; then
  if command -v sudo >/dev/null; then
    as_root=(sudo)
  else
    echo "Please install ${missing[*]} (as root: apt-get install ${missing[*]}), then try again." >&2
    exit 1
  fi
fi
if ! command -v apt-get >/dev/null; then
  echo "Please install ${missing[*]} with this system's packages, then try again." >&2
  exit 1
fi
echo "Installing ${missing[*]} with apt-get …"
"${as_root[@]}" apt-get update -qq
"${as_root[@]}" apt-get install -y -qq --no-install-recommends "${missing[@]}"
