// SPDX-License-Identifier: GPL-3.0-or-later
// Laid under a program by LD_PRELOAD: its clock of the day stands at CONDUCTUS_TEST_CLOCK, in
// seconds since 1970. All other clocks run on.
#include <cstdlib>
#include <ctime>
#include <sys/syscall.h>
#include <unistd.h>

extern "C" int clock_gettime(clockid_t which, timespec* time) noexcept {
    const char* set = std::getenv("CONDUCTUS_TEST_CLOCK");
    if (which != CLOCK_REALTIME || !set)
        return static_cast<int>(::syscall(SYS_clock_gettime, which, time));
    time->tv_sec = std::atoll(set);
    time->tv_nsec = 0;
    return 0;
}
