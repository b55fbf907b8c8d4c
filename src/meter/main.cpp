// SPDX-License-Identifier: GPL-3.0-or-later
// A pretend bench meter and a pretend supply, on a port of this machine or a pseudo-terminal. What
// they read comes from a job, whole or with a fault in it: docs/guide.md, "Bench".
#include <CLI/CLI.hpp>
#include <arpa/inet.h>
#include <array>
#include <cerrno>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <fmt/format.h>
#include <netinet/in.h>
#include <poll.h>
#include <sys/socket.h>
#include <termios.h>
#include <unistd.h>

#include "core/diagnose/diagnosis.h"
#include "core/diagnose/practice.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/meter/pretend.h"
#include "files/catalogue_json.h"
#include "files/disk.h"
#include "shop/book.h"

namespace {

using namespace conductus;

constexpr int fine = 0, usage = 2, bad_input = 3;

int refuse(const Problem& problem) {
    fmt::print(stderr, "conductus-meter: {}\n", problem.text());
    return bad_input;
}
int refuse_system(const char* what) {
    fmt::print(stderr, "conductus-meter: {}: {}\n", what, std::strerror(errno));
    return bad_input;
}

/// What an old cable does to an answer: a byte lost, a byte spoilt, an end missing.
class Cable {
public:
    Cable(double spoils, std::uint64_t seed) : spoils_(spoils), random_(seed) {}
    std::string carry(std::string bytes) {
        if (spoils_ <= 0 || random_.uniform() >= spoils_) return bytes;
        const auto at =
            static_cast<std::size_t>(random_.uniform() * static_cast<double>(bytes.size()));
        switch (random_.next() % 4) {
        case 0:
            bytes.erase(at, 1);
            break;
        case 1:
            bytes[at] = static_cast<char>(33 + random_.next() % 90);
            break;
        case 2:
            bytes.resize(at);
            break;
        default:
            bytes.clear();
        }
        return bytes;
    }

private:
    double spoils_;
    Random random_;
};

/// A line that both ends hold, until the other end goes.
class Ends {
public:
    virtual ~Ends() = default;
    virtual bool wait() = 0; ///< for somebody at the other end; false: it can not be
    [[nodiscard]] virtual int file() const = 0;
    virtual void gone() = 0;
};

class Port : public Ends {
public:
    explicit Port(int number) : listens_(::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0)) {
        const int yes = 1;
        ::setsockopt(listens_, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
        sockaddr_in at{};
        at.sin_family = AF_INET;
        at.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
        at.sin_port = htons(static_cast<std::uint16_t>(number));
        auto* address = reinterpret_cast<sockaddr*>(&at);
        if (::bind(listens_, address, sizeof at) != 0 || ::listen(listens_, 1) != 0) return;
        socklen_t size = sizeof at;
        ::getsockname(listens_, address, &size);
        number_ = ntohs(at.sin_port);
    }
    ~Port() override {
        gone();
        ::close(listens_);
    }
    [[nodiscard]] int number() const { return number_; } ///< 0: it can not be had
    bool wait() override {
        do
            talks_ = ::accept4(listens_, nullptr, nullptr, SOCK_CLOEXEC);
        while (talks_ < 0 && errno == EINTR);
        return talks_ >= 0;
    }
    [[nodiscard]] int file() const override { return talks_; }
    void gone() override {
        if (talks_ >= 0) ::close(talks_);
        talks_ = -1;
    }

private:
    int listens_, talks_ = -1, number_ = 0;
};

class Terminal : public Ends {
public:
    Terminal() : file_(::posix_openpt(O_RDWR | O_NOCTTY | O_CLOEXEC)) {
        if (file_ < 0 || ::grantpt(file_) != 0 || ::unlockpt(file_) != 0) return;
        std::array<char, 128> name{};
        if (::ptsname_r(file_, name.data(), name.size()) == 0) name_ = name.data();
        // Its own end stays open, so that the other may come and go.
        if (!name_.empty()) held_ = ::open(name_.c_str(), O_RDWR | O_NOCTTY | O_CLOEXEC);
        termios raw{};
        if (held_ >= 0 && ::tcgetattr(held_, &raw) == 0) {
            ::cfmakeraw(&raw);
            ::tcsetattr(held_, TCSANOW, &raw);
        }
    }
    ~Terminal() override {
        if (held_ >= 0) ::close(held_);
        if (file_ >= 0) ::close(file_);
    }
    [[nodiscard]] const std::string& name() const { return name_; } ///< empty: it can not be had
    bool wait() override { return true; }
    [[nodiscard]] int file() const override { return file_; }
    void gone() override {}

private:
    int file_, held_ = -1;
    std::string name_;
};

bool send(int file, const std::string& bytes) {
    for (std::size_t done = 0; done < bytes.size();) {
        const auto n = ::write(file, bytes.data() + done, bytes.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return false;
        done += static_cast<std::size_t>(n);
    }
    return true;
}

void converse(Ends& ends, meter::Pretend& meter, Cable& cable, Random& silence, double silent) {
    std::string in;
    std::array<char, 512> some{};
    for (;;) {
        const auto n = ::read(ends.file(), some.data(), some.size());
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return;
        in.append(some.data(), static_cast<std::size_t>(n));
        for (std::size_t end; (end = in.find_first_of("\r\n")) != std::string::npos;) {
            const std::string answer = meter.hear(in.substr(0, end));
            in.erase(0, end + 1);
            if (answer.empty() || (silent > 0 && silence.uniform() < silent)) continue;
            if (!send(ends.file(), cable.carry(answer + "\n"))) return;
        }
        if (in.size() > 4096) in.clear();
    }
}

} // namespace

int main(int argc, char** argv) {
    std::string job, dialect_name = meter::dialects().front().name;
    std::vector<std::string> faults;
    int port = -1;
    bool pty = false;
    double bad_cable = 0, silent = 0;
    std::uint64_t seed = 1;
    CLI::App app("a pretend bench meter and supply that read what a job would show",
                 "conductus-meter");
    app.add_option("--job", job, "a job file, or NAME@BOOK")->required();
    app.add_option("--fault", faults,
                   "what is wrong with it, by its id: \"open W3\"; more than once: several");
    auto* on_port = app.add_option("--port", port, "of this machine; 0: any that is free")
                        ->check(CLI::Range(0, 65535));
    app.add_flag("--pty", pty, "a pseudo-terminal in place of a port")->excludes(on_port);
    app.add_option("--dialect", dialect_name, "the words it understands");
    app.add_option("--bad-cable", bad_cable, "share of answers that the cable spoils, 0 to 1")
        ->check(CLI::Range(0.0, 1.0));
    app.add_option("--silent", silent, "share of questions that it does not answer, 0 to 1")
        ->check(CLI::Range(0.0, 1.0));
    app.add_option("--seed", seed, "of noise and trouble");
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        return app.exit(e) == 0 ? fine : usage;
    }
    if (!pty && port < 0) {
        fmt::print(stderr, "conductus-meter: --port N or --pty is wanted\n");
        return usage;
    }
    const meter::Dialect* dialect = nullptr;
    for (const meter::Dialect& d : meter::dialects())
        if (d.name == dialect_name) dialect = &d;
    if (!dialect) {
        std::vector<std::string> names;
        for (const meter::Dialect& d : meter::dialects())
            names.push_back(d.name);
        return refuse({"--dialect", say("there is no dialect '{}'", dialect_name),
                       say("There are: {}", joined(names, "; "))});
    }
    const auto data = files::find_data(files::this_executable());
    if (!data) return refuse(data.error());
    const auto parts = files::read_catalogues(*data);
    if (!parts) return refuse(parts.error());
    const auto named = shop::job_named(job, parts->parts);
    if (!named) return refuse(named.error());

    const job::Job hilt = job::as_it_stands(named->job);
    // Its cell is as full as the job's own readings say, which the test plan goes by as well.
    diagnose::World world(hilt, *named->parts, diagnose::charge_told(hilt, *named->parts));
    const auto known = diagnose::faults_of(world);
    if (known.empty())
        return refuse({named->job.name, "there is no network to measure in",
                       "Wire the board to the cell first"});
    std::vector<const diagnose::Fault*> hidden;
    for (const std::string& id : faults) {
        const auto it = std::find_if(known.begin(), known.end(), [&](const diagnose::Fault& f) {
            return f.id == id || f.says == id;
        });
        if (it == known.end()) {
            std::vector<std::string> ids;
            for (const diagnose::Fault& f : known)
                ids.push_back(f.id);
            return refuse({"--fault", say("'{}' is no fault of this job", id),
                           say("There are: {}", joined(ids, "; "))});
        }
        hidden.push_back(&*it);
    }
    const diagnose::Draw build = diagnose::drawn(world, seed);
    meter::Pretend pretend(
        *dialect,
        [&](job::Reads what, const meter::Probes& p, const meter::Supply& supply) {
            const diagnose::Measure m{what, p.state, p.from, p.to};
            return supply.on ? diagnose::read_on_supply(world, m, hidden, build, p.turned,
                                                        {supply.volts, supply.limit})
                             : world.read(m, hidden, build, p.turned);
        },
        seed);
    // Until it is told where its probes are, they are at the cell.
    if (const auto cell = job::first_of<catalogue::Cell>(hilt, *named->parts))
        (void)pretend.hear(
            fmt::format("PROBES \"idle\",\"{0}.plus\",\"{0}.minus\"", cell.part->ref));

    std::signal(SIGPIPE, SIG_IGN);
    Cable cable(bad_cable, seed + 1);
    Random silence(seed + 2);
    if (pty) {
        Terminal terminal;
        if (terminal.name().empty()) return refuse_system("no pseudo-terminal can be had");
        fmt::print("{}\n", terminal.name());
        std::fflush(stdout);
        converse(terminal, pretend, cable, silence, silent);
        return fine;
    }
    Port listens(port);
    if (listens.number() == 0) return refuse_system("the port can not be had");
    fmt::print("127.0.0.1:{}\n", listens.number());
    std::fflush(stdout);
    while (listens.wait()) {
        converse(listens, pretend, cable, silence, silent);
        listens.gone();
    }
    return fine;
}
