# What ./demo and ./check share: the packages Conductus is built from, and the build. Sourced.

# The programs, and a display where there is none.
program_packages=(
  build-essential cmake ninja-build ccache
  qt6-base-dev qt6-svg-dev qt6-serialport-dev libgl1-mesa-dev
  libsndfile1-dev libebur128-dev libctemplate-dev pkg-config
  libxxhash-dev libeigen3-dev nlohmann-json3-dev libsqlitecpp-dev libsqlite3-dev libzstd-dev libcli11-dev libfmt-dev libexpected-dev
  xvfb xauth
)
# The tests, the referee and the benchmarks.
test_packages=(libgtest-dev libbenchmark-dev libsm-dev libice-dev ngspice)
# Broken input for every importer.
fuzz_packages=(clang libclang-rt-14-dev)

# Installs those of the packages that are missing, as root or with sudo. Quick when none is.
ensure_packages() {
  local missing=() package
  for package in "$@"; do
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

# Configures and builds everything into build/.
build_all() {
  echo "== Building the programs, the tests and the benchmarks in build/ (about 8 minutes on two cores the first time)"
  cmake --preset default >/dev/null
  NINJA_STATUS='[%f of %t, %e s] ' cmake --build --preset default
}

# Builds the window and the command line alone; what ./check configured stays as it is.
build_programs() {
  echo "== Building the window in build/ (about 5 minutes on two cores the first time)"
  if [ -f build/CMakeCache.txt ]; then
    cmake build >/dev/null
  else
    cmake --preset default -DBUILD_TESTING=OFF >/dev/null
  fi
  NINJA_STATUS='[%f of %t, %e s] ' cmake --build --preset default --target conductus conductus-cli conductus-meter
}
