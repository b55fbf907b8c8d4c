// SPDX-License-Identifier: GPL-3.0-or-later
// The desktop logs out: a small session manager asks the program to keep its work, and ends it.
#include <X11/ICE/ICElib.h>
#include <X11/SM/SMlib.h>
#include <algorithm>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <fcntl.h>
#include <gtest/gtest.h>
#include <poll.h>
#include <string>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <unistd.h>
#include <vector>

#include "shop/books.h"
#include "support/fixtures.h"

namespace conductus::app {
namespace {

using namespace test;
using Clock = std::chrono::steady_clock;

/// The desktop's side of the X session management protocol, for one client.
class SessionManager {
public:
    SessionManager() {
        char error[256] = "";
        started = SmsInitialize("tests", "1", new_client, this, accept, sizeof error, error) != 0 &&
                  IceListenForConnections(&listening_, &listen_, sizeof error, error) != 0;
        for (int i = 0; started && i < listening_; ++i)
            IceSetHostBasedAuthProc(listen_[i], accept);
    }
    ~SessionManager() {
        if (started) IceFreeListenObjs(listening_, listen_);
    }
    SessionManager(const SessionManager&) = delete;
    SessionManager& operator=(const SessionManager&) = delete;

    /// Where clients find it: SESSION_MANAGER.
    std::string address() {
        char* ids = IceComposeNetworkIdList(listening_, listen_);
        std::string all = ids;
        std::free(ids);
        return all;
    }
    /// Answers clients until something is so, a minute at most.
    template <class So>
    bool serve_until(So&& so) {
        const auto end = Clock::now() + std::chrono::minutes(1);
        while (!so()) {
            if (Clock::now() > end) return false;
            std::vector<pollfd> all;
            for (int i = 0; i < listening_; ++i)
                all.push_back({IceGetListenConnectionNumber(listen_[i]), POLLIN, 0});
            for (const IceConn c : connections_)
                all.push_back({IceConnectionNumber(c), POLLIN, 0});
            if (::poll(all.data(), all.size(), 50) <= 0) continue;
            const std::vector<IceConn> known = connections_;
            for (std::size_t i = 0; i < all.size(); ++i) {
                if (!all[i].revents) continue;
                const auto n = static_cast<std::size_t>(listening_);
                if (i < n) {
                    IceAcceptStatus status = IceAcceptFailure;
                    if (IceConn c = IceAcceptConnection(listen_[i], &status))
                        connections_.push_back(c);
                } else if (std::find(connections_.begin(), connections_.end(), known[i - n]) !=
                           connections_.end()) {
                    // A connection that is closed in an answer is gone already.
                    const auto now = IceProcessMessages(known[i - n], nullptr, nullptr);
                    if (now == IceProcessMessagesIOError) IceCloseConnection(known[i - n]);
                    if (now != IceProcessMessagesSuccess) std::erase(connections_, known[i - n]);
                }
            }
        }
        return true;
    }
    /// As a desktop does at the end: work and state are kept, nobody is asked, then all ends.
    void log_out() {
        kept = false;
        ending_ = true;
        SmsSaveYourself(client, SmSaveBoth, True, SmInteractStyleNone, False);
    }

    bool started = false;
    SmsConn client = nullptr;
    bool kept = false;

private:
    static Bool accept(char*) { return True; }
    static SessionManager& self(SmPointer data) { return *static_cast<SessionManager*>(data); }

    static Status new_client(SmsConn, SmPointer data, unsigned long* wanted, SmsCallbacks* calls,
                             char**) {
        *wanted = SmsRegisterClientProcMask | SmsInteractRequestProcMask | SmsInteractDoneProcMask |
                  SmsSaveYourselfRequestProcMask | SmsSaveYourselfP2RequestProcMask |
                  SmsSaveYourselfDoneProcMask | SmsCloseConnectionProcMask |
                  SmsSetPropertiesProcMask | SmsDeletePropertiesProcMask | SmsGetPropertiesProcMask;
        calls->register_client = {[](SmsConn conn, SmPointer d, char* before) -> Status {
                                      // Says it knows no earlier client of that name.
                                      if (before) {
                                          std::free(before);
                                          return False;
                                      }
                                      char* id = SmsGenerateClientID(conn);
                                      SmsRegisterClientReply(conn, id);
                                      std::free(id);
                                      SmsSaveYourself(conn, SmSaveLocal, False, SmInteractStyleNone,
                                                      False);
                                      self(d).client = conn;
                                      return True;
                                  },
                                  data};
        calls->interact_request = {[](SmsConn conn, SmPointer, int) { SmsInteract(conn); }, data};
        calls->interact_done = {[](SmsConn, SmPointer, Bool) {}, data};
        calls->save_yourself_request = {[](SmsConn, SmPointer, int, Bool, int, Bool, Bool) {},
                                        data};
        calls->save_yourself_phase2_request = {
            [](SmsConn conn, SmPointer) { SmsSaveYourselfPhase2(conn); }, data};
        calls->save_yourself_done = {[](SmsConn conn, SmPointer d, Bool) {
                                         self(d).kept = true;
                                         if (self(d).ending_)
                                             SmsDie(conn);
                                         else
                                             SmsSaveComplete(conn);
                                     },
                                     data};
        calls->close_connection = {[](SmsConn conn, SmPointer d, int reasons, char** texts) {
                                       SmFreeReasons(reasons, texts);
                                       IceConn ice = SmsGetIceConnection(conn);
                                       SmsCleanUp(conn);
                                       IceSetShutdownNegotiation(ice, False);
                                       IceCloseConnection(ice);
                                       std::erase(self(d).connections_, ice);
                                   },
                                   data};
        calls->set_properties = {[](SmsConn, SmPointer, int n, SmProp** all) {
                                     for (int i = 0; i < n; ++i)
                                         SmFreeProperty(all[i]);
                                     std::free(all);
                                 },
                                 data};
        calls->delete_properties = {[](SmsConn, SmPointer, int n, char** names) {
                                        for (int i = 0; i < n; ++i)
                                            std::free(names[i]);
                                        std::free(names);
                                    },
                                    data};
        calls->get_properties = {
            [](SmsConn conn, SmPointer) { SmsReturnProperties(conn, 0, nullptr); }, data};
        return True;
    }

    int listening_ = 0;
    IceListenObj* listen_ = nullptr;
    std::vector<IceConn> connections_;
    bool ending_ = false;
};

/// A display of the test's own.
class Display {
public:
    Display() {
        int ends[2];
        if (::pipe(ends) != 0) return;
        child_ = ::fork();
        if (child_ == 0) {
            ::prctl(PR_SET_PDEATHSIG, SIGTERM); // goes with the test, however that ends
            const std::string fd = std::to_string(ends[1]);
            const int nothing = ::open("/dev/null", O_WRONLY | O_CLOEXEC);
            ::dup2(nothing, STDOUT_FILENO);
            ::dup2(nothing, STDERR_FILENO);
            ::execlp("Xvfb", "Xvfb", "-displayfd", fd.c_str(), "-screen", "0", "1280x800x24",
                     "-nolisten", "tcp", nullptr);
            ::_exit(127);
        }
        ::close(ends[1]);
        char digit = 0;
        while (::read(ends[0], &digit, 1) == 1 && digit != '\n')
            number += digit;
        ::close(ends[0]);
    }
    ~Display() {
        ::kill(child_, SIGTERM);
        ::waitpid(child_, nullptr, 0);
    }
    Display(const Display&) = delete;
    Display& operator=(const Display&) = delete;

    std::string number; ///< empty where it did not start

private:
    pid_t child_ = -1;
};

TEST(LogOut, WhatIsTypedAndNotEnteredIsKept) {
    TemporaryFolder folder;
    const auto book = folder / "shop.book";
    ASSERT_TRUE(*shop::make_demo_book(book, source_dir() / "data/demo", parts()));
    const Display display;
    ASSERT_FALSE(display.number.empty()) << "Xvfb did not start";
    SessionManager desktop;
    ASSERT_TRUE(desktop.started);
    int ends[2];
    ASSERT_EQ(::pipe2(ends, O_NONBLOCK), 0);
    const std::string self = (bin_dir() / "app_tests").string(), path = book.string(),
                      manager = desktop.address();
    const pid_t child = ::fork();
    if (child == 0) {
        ::prctl(PR_SET_PDEATHSIG, SIGTERM);
        ::dup2(ends[1], STDOUT_FILENO);
        ::setenv("DISPLAY", (":" + display.number).c_str(), 1);
        ::setenv("SESSION_MANAGER", manager.c_str(), 1);
        ::setenv("QT_QPA_PLATFORM", "xcb", 1);
        ::execl(self.c_str(), self.c_str(), "--type-and-wait", path.c_str(), nullptr);
        ::_exit(127);
    }
    ::close(ends[1]);
    char told = 0;
    ASSERT_TRUE(desktop.serve_until([&] { return ::read(ends[0], &told, 1) == 1; })) << "typed";
    ASSERT_TRUE(desktop.serve_until([&] { return desktop.client && desktop.kept; }))
        << "the program has told the desktop that it is there";
    ASSERT_NE(fresh(book).load("Heron", parts())->job.use.clean, Minute(37)) << "not entered yet";
    desktop.log_out();
    ASSERT_TRUE(desktop.serve_until([&] { return desktop.kept; }));
    EXPECT_EQ(fresh(book).load("Heron", parts())->job.use.clean, Minute(37))
        << "kept when the desktop was told so, before it ends the program";
    int status = 0;
    EXPECT_TRUE(desktop.serve_until([&] { return ::waitpid(child, &status, WNOHANG) == child; }));
    EXPECT_TRUE(WIFEXITED(status) && WEXITSTATUS(status) == 0);
    ::close(ends[0]);
}

} // namespace
} // namespace conductus::app
