// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/meter/dialect.h"

#include <algorithm>
#include <charconv>
#include <fmt/format.h>

namespace conductus::meter {
namespace {

struct Entry {
    const char* what;
    std::string Dialect::*text;
};
constexpr Entry entries[] = {{"identify", &Dialect::identify},
                             {"clear", &Dialect::clear},
                             {"choose volts", &Dialect::volts},
                             {"choose amps", &Dialect::amps},
                             {"choose ohms", &Dialect::ohms},
                             {"ask what it reads", &Dialect::function},
                             {"answer of volts", &Dialect::volts_is},
                             {"answer of amps", &Dialect::amps_is},
                             {"answer of ohms", &Dialect::ohms_is},
                             {"read", &Dialect::read},
                             {"read amps beside volts", &Dialect::amps_beside}};
constexpr const char *overload_word = "overload from", *patience_word = "wait, ms";

template <class N>
bool number(const std::string& text, N& out) {
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), out);
    return error == std::errc() && end == text.data() + text.size();
}

} // namespace

const std::string& Dialect::choose(job::Reads what) const {
    return what == job::Reads::amps ? amps : what == job::Reads::ohms ? ohms : volts;
}

const std::string& Dialect::is(job::Reads what) const {
    return what == job::Reads::amps ? amps_is : what == job::Reads::ohms ? ohms_is : volts_is;
}

const std::vector<Dialect>& dialects() {
    static const std::vector<Dialect> all = [] {
        Dialect asked;
        asked.name = "asked what it reads";
        Dialect few;
        few.name = "few words";
        few.volts = "VDC", few.amps = "ADC", few.ohms = "OHM";
        few.function.clear();
        few.read = "VAL?";
        Dialect both = asked;
        both.name = "reads volts and amps";
        both.amps_beside = "SUPP:CURR?";
        return std::vector<Dialect>{asked, few, both};
    }();
    return all;
}

std::vector<DialectWord> words_of(const Dialect& dialect) {
    std::vector<DialectWord> all;
    for (const Entry& e : entries)
        all.push_back({e.what, dialect.*e.text});
    all.push_back({overload_word, fmt::format("{:g}", dialect.overload)});
    all.push_back({patience_word, std::to_string(dialect.patience_ms)});
    return all;
}

Result<Dialect> dialect_of(const std::string& name, const std::vector<DialectWord>& words) {
    Dialect d;
    d.name = name;
    for (std::size_t i = 0; i < words.size(); ++i) {
        const DialectWord& w = words[i];
        const std::string where = fmt::format("line {}", i + 1);
        if (w.what == overload_word) {
            if (!number(w.text, d.overload) || !(d.overload > 0))
                return problem(where, say("'{}' is no number above 0", w.text),
                               "Write it like 9.9e37");
            continue;
        }
        if (w.what == patience_word) {
            if (!number(w.text, d.patience_ms) || d.patience_ms < 50 || d.patience_ms > 60000)
                return problem(where, say("'{}' is no time between 50 and 60000 ms", w.text),
                               "Write it like 1500");
            continue;
        }
        const auto* e = std::find_if(std::begin(entries), std::end(entries),
                                     [&](const Entry& one) { return w.what == one.what; });
        if (e == std::end(entries))
            return problem(where, say("'{}' is no word of this table", w.what),
                           "Take the words of the table as they are");
        if (w.text.size() > 80 || std::any_of(w.text.begin(), w.text.end(), [](char c) {
                return static_cast<unsigned char>(c) < 0x20 || c == 0x7f;
            }))
            return problem(where, "the command is too long, or holds a control character",
                           "Keep it to 80 printable characters");
        d.*(e->text) = w.text;
    }
    if (d.identify.empty() || d.read.empty())
        return problem("the table", "without 'identify' and 'read' nothing can be read",
                       "Write what the meter's own manual says for both");
    return d;
}

} // namespace conductus::meter
