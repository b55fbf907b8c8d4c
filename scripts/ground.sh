# What ./demo and ./check share: the packages Conductus is built from, and the build. Sourced.

packages=(
  build-essential cmake ninja-build ccache
  qt6-base-dev qt6-svg-dev libgl1-mesa-dev
  libxxhash-dev libeigen3-dev nlohmann-json3-dev libsqlitecpp-dev libsqlite3-dev libzstd-dev libcli11-dev libfmt-dev libexpected-dev
  libgtest-dev libbenchmark-dev libsm-dev libice-dev
  ngspice xvfb xauth
  clang libclang-rt-14-dev
)

# Installs those of `packages` that are missing, as root or with sudo. Quick when none is.
ensure_packages() {
  local missing=() package
  for package in "${packages[@]}"; do
    dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q '^install ok installed$' || missing+=("$package")
  done
  [ "${#missing[@]}" -eq 0 ] && return 0
  local as_root=()
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null || {
      echo "These packages are missing: ${missing[*]}" >&2
      echo "Install them as root: apt-get install ${missing[*]}" >&2
      return 1
    }
    as_root=(sudo)
  fi
  echo "== Installing with apt: ${missing[*]}"
  "${as_root[@]}" apt-get update -qq
  "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

# Configures and builds into build/.
build_all() {
  echo "== Building in build/ (the first time takes some minutes)"
  cmake --preset default >/dev/null
  cmake --build --preset default
}
