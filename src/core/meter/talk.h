// SPDX-License-Identifier: GPL-3.0-or-later
// What is said to a meter, and what is believed of its answers. It knows nothing of cables: bytes
// and times go in, bytes and events come out, so that every trouble of a cable can be tried.
// docs/models.md, "Meter link".
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/meter/dialect.h"

namespace conductus::meter {

struct Event {
    enum class Kind {
        identified,     ///< `text`: what it says that it is
        reading,        ///< `value`: three answers one after the other agreed; five after trouble
        amps,           ///< `value`: the current beside the volts; two answers agreed
        overload,       ///< the range is too small; of ohms: nothing conducts
        wrong_function, ///< `text`: what it reads instead; it was set again
        garbage,        ///< `text`: an answer that is none; it was asked again
        silent,         ///< no answer in time; it was asked again
        lost            ///< no sense came of it for long; it is tried on
    };
    Kind kind = Kind::reading;
    job::Reads what = job::Reads::volts;
    double value = 0;
    bool steady = false; ///< two answers more agreed with them
    std::string text;
};

/// How far two readings of the same thing may be apart: 1 % and a little more, as of
/// diagnose::instrument_sigma().
double apart(job::Reads what, double value);

/// One conversation. One question is open at a time. An answer that comes late, in part or twice is
/// never taken for the answer of another question: after any trouble what it says that it is is
/// asked again, and everything before that answer is thrown away.
class Talk {
public:
    explicit Talk(Dialect dialect) : dialect_(std::move(dialect)) {}

    /// The line is open (again). Times are milliseconds of any clock that only goes forward.
    void opened(long long now);
    /// The line was cut: nothing is asked until it is opened again.
    void closed();
    void received(std::string_view bytes, long long now);
    /// Time goes by.
    void tick(long long now);
    /// From now on it reads that, on and on.
    void measure(job::Reads what, long long now);
    /// Sends a line that has no answer, when nothing is open: of a stand-in where its probes are.
    void tell(std::string line);
    /// The probes are moved: what was read so far, and the answer that is under way, are of before.
    void forget();

    [[nodiscard]] std::string take_out();
    [[nodiscard]] std::vector<Event> take_events();
    [[nodiscard]] const std::string& identity() const { return identity_; }
    [[nodiscard]] bool is_open() const { return open_; }

private:
    enum class Asked { nothing, identify, identify_again, resume, function, read, amps };
    void ask(Asked what, long long now);
    void answer(const std::string& line, long long now);
    void taken(double value, long long now);
    /// Everything up to the next time that it says what it is counts for nothing.
    void start_again(long long now);
    void next(long long now);
    void event(Event::Kind kind, std::string text = {}, double value = 0, bool steady = false);

    Dialect dialect_;
    bool open_ = false;
    Asked asked_ = Asked::nothing;
    long long until_ = 0;
    int troubles_ = 0;
    std::string in_, out_, identity_, first_identity_;
    std::optional<job::Reads> what_;
    bool chosen_ = false;  ///< the function was set
    bool checked_ = false; ///< and the meter said so since the last reading
    std::optional<bool> last_over_;
    std::vector<double> good_; ///< answers one after the other that agree, the latest last
    int wary_ = 0;             ///< answers until it forgets the latest trouble
    std::optional<double> last_amps_;
    bool forget_ = false; ///< the answer under way counts for nothing
    std::vector<std::string> tell_;
    std::vector<Event> events_;
};

/// A number as a meter writes it and nothing else; empty: it is none.
std::optional<double> number_of(std::string_view line);

} // namespace conductus::meter
