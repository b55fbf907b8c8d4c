// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/handling_csv.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <fmt/format.h>
#include <map>
#include <optional>

#include "core/base/nearest.h"
#include "core/handling/buttons.h"
#include "core/job/lookup.h"
#include "core/job/trigger.h"
#include "core/job/words.h"
#include "files/csv.h"

namespace conductus::files {
namespace {

using job::Command;
using job::Does;

constexpr std::size_t most_rows = 2000;

/// Columns by their names; empty: the first line is none of names.
std::map<std::string, std::size_t> columns_of(const std::vector<CsvCell>& head,
                                              const std::map<std::string, std::string>& known) {
    std::map<std::string, std::size_t> at;
    for (std::size_t i = 0; i < head.size(); ++i)
        if (const auto it = known.find(cell_key(head[i].text)); it != known.end())
            at.try_emplace(it->second, i);
    return at;
}

std::string cell_place(const std::string& name, const CsvCell& cell) {
    return fmt::format("{} line {}, column {}", name, cell.line, cell.column);
}

class CommandReader {
public:
    CommandReader(const std::string& name, const job::Job& job, const catalogue::Catalogue& parts)
        : name_(name), job_(job), buttons_(handling::hand_buttons(job, parts)) {}

    Result<std::vector<Command>> run(std::string_view text) {
        const CsvTable table = read_csv(text, name_, most_rows);
        if (table.records.empty())
            return problem(name_, "there are no commands in it", "Write one in each line");
        static const std::map<std::string, std::string> known{
            {"command", "command"}, {"name", "command"},   {"state", "state"},
            {"trigger", "trigger"}, {"does", "does"},      {"what", "what"},
            {"leads", "leads"},     {"leads to", "leads"}, {"preset", "preset"},
            {"blade", "blade"},     {"source", "source"},  {"from", "source"}};
        columns_ = columns_of(table.records.front(), known);
        if (columns_.contains("command") && columns_.contains("trigger")) {
            if (!table.problems.empty()) return tl::unexpected(table.problems.front());
            for (std::size_t r = 1; r < table.records.size(); ++r)
                if (auto ok = row(table.records[r]); !ok) return tl::unexpected(ok.error());
        } else if (auto ok = lines(text); !ok) {
            return tl::unexpected(ok.error());
        }
        if (all_.empty())
            return problem(name_, "there are no commands in it", "Write one in each line");
        return std::move(all_);
    }

private:
    Result<void> row(const std::vector<CsvCell>& record) {
        const auto cell = [&](const char* column) -> const CsvCell* {
            const auto it = columns_.find(column);
            return it != columns_.end() && it->second < record.size() ? &record[it->second]
                                                                      : nullptr;
        };
        const auto text = [&](const char* column) {
            const CsvCell* c = cell(column);
            return c ? cell_words(c->text) : std::string();
        };
        const CsvCell* trigger = cell("trigger");
        const CsvCell& where = trigger ? *trigger : record.front();
        Command c;
        c.name = text("command");
        c.state = text("state");
        c.what = text("what");
        c.leads = text("leads");
        c.preset = text("preset");
        c.source = text("source");
        if (const std::string does = cell_key(text("does")); !does.empty()) {
            const auto known = job::from_word<Does>(does);
            if (!known)
                return problem(cell_place(name_, *cell("does")),
                               say("'{}' is nothing that a command does", shown(does, 40)),
                               "Leave it empty: it follows from the name");
            c.does = *known;
        } else {
            guess(c);
        }
        if (const std::string blade = cell_key(text("blade")); !blade.empty()) {
            const auto known = job::from_word<job::BladeThere>(blade);
            if (!known)
                return problem(cell_place(name_, *cell("blade")),
                               say("'{}' is not how a blade is there", shown(blade, 40)),
                               "It is in, out or any");
            c.blade = *known;
        }
        return take(std::move(c), trigger ? trigger->text : std::string(),
                    cell_place(name_, where));
    }

    /// "lit: A held 0.6 s: put out > idle"
    Result<void> lines(std::string_view text) {
        std::size_t number = 0;
        while (!text.empty()) {
            const auto end = text.find('\n');
            const std::string line = cell_words(text.substr(0, end));
            text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
            ++number;
            if (line.empty() || line.front() == '#') continue;
            const std::string where = fmt::format("{} line {}", name_, number);
            const auto first = line.find(':');
            const auto second = first == std::string::npos ? first : line.find(':', first + 1);
            if (second == std::string::npos)
                return problem(where, say("'{}' is no command", shown(line, 60)),
                               "Write it like “lit: A held 0.6 s: put out > idle”: state, trigger, "
                               "command, and where it leads");
            Command c;
            c.state = cell_words(std::string_view(line).substr(0, first));
            c.name = cell_words(std::string_view(line).substr(second + 1));
            if (const auto to = c.name.rfind('>'); to != std::string::npos) {
                c.leads = cell_words(std::string_view(c.name).substr(to + 1));
                c.name = cell_words(std::string_view(c.name).substr(0, to));
            }
            guess(c);
            if (auto ok = take(std::move(c), line.substr(first + 1, second - first - 1), where);
                !ok)
                return ok;
        }
        return {};
    }

    Result<void> take(Command c, const std::string& typed, const std::string& where) {
        if (c.name.empty()) return problem(where, "the command has no name", "Say what it does");
        if (c.state.empty())
            c.state = job_.handling.states.empty() ? "idle" : job_.handling.states.front().name;
        auto trigger = job::read_trigger(with_refs(typed));
        if (!trigger) {
            Problem why = trigger.error();
            why.where = where;
            return tl::unexpected(why);
        }
        for (const job::TriggerButton& b : trigger->buttons)
            if (std::none_of(buttons_.begin(), buttons_.end(),
                             [&](const auto& known) { return known.ref == b.button; })) {
                std::vector<std::string> there;
                for (const handling::HandButton& known : buttons_)
                    there.push_back(fmt::format("{} ({})", known.letter, known.ref));
                return problem(where, say("there is no button '{}'", shown(b.button, 40)),
                               there.empty() ? Message("Fit a button first")
                                             : say("There are: {}", joined(there, ", ")));
            }
        c.trigger = std::move(*trigger);
        if (c.source.empty()) c.source = name_.substr(name_.rfind('/') + 1);
        if (!c.preset.empty() && !job::find_name(job_.presets, c.preset))
            return problem(where, say("there is no preset named '{}'", c.preset),
                           "Enter the presets first, or leave it out");
        all_.push_back(std::move(c));
        return {};
    }

    /// Places and letters of buttons as the names of their parts.
    [[nodiscard]] std::string with_refs(const std::string& typed) const {
        std::string text = " " + typed + " ";
        const auto replace = [&](const std::string& what, const std::string& by) {
            const std::string lower = cell_key(what);
            std::string at_hand = text;
            std::transform(at_hand.begin(), at_hand.end(), at_hand.begin(),
                           [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
            for (auto at = at_hand.find(lower); at != std::string::npos;
                 at = at_hand.find(lower, at + 1)) {
                const auto is_part = [&](char c) {
                    return std::isalnum(static_cast<unsigned char>(c)) != 0;
                };
                if (is_part(at_hand[at - 1]) || is_part(at_hand[at + lower.size()])) continue;
                text.replace(at, lower.size(), by);
                return true;
            }
            return false;
        };
        for (const handling::HandButton& b : buttons_)
            while (b.place.english().find(' ') != std::string::npos &&
                   replace(b.place.english(), b.ref)) {
            }
        std::string out;
        std::string word;
        const auto flush = [&] {
            for (const handling::HandButton& b : buttons_)
                if (cell_key(word) == cell_key(b.letter) || cell_key(word) == cell_key(b.ref)) {
                    word = b.ref;
                    break;
                }
            out += word;
            word.clear();
        };
        for (const char c : text) {
            if (std::isalnum(static_cast<unsigned char>(c)) || c == '.' || c == '_' || c == '-')
                word += c;
            else
                flush(), out += c;
        }
        flush();
        return cell_words(out);
    }

    /// What a command of that name does.
    void guess(Command& c) const {
        const std::string name = cell_key(c.name);
        for (const job::Effect& e : job_.effects)
            if (cell_key(e.name) == name) {
                c.does = Does::effect, c.what = e.name;
                return;
            }
        for (const job::Preset& p : job_.presets)
            if (cell_key(p.name) == name) {
                c.does = Does::preset, c.what = p.name;
                return;
            }
        for (const auto& [does, word] : job::Words<Does>::table)
            if (name == word) {
                c.does = does;
                return;
            }
    }

    const std::string& name_;
    const job::Job& job_;
    std::vector<handling::HandButton> buttons_;
    std::map<std::string, std::size_t> columns_;
    std::vector<Command> all_;
};

/// A state that a table names and the map has not yet.
job::HandState state_for(const std::string& name) {
    job::HandState s;
    s.name = name;
    const std::string lower = cell_key(name);
    for (const auto& [kind, word] : job::Words<job::StateKind>::table)
        if (lower == word) s.kind = kind;
    if (lower.find("menu") != std::string::npos) s.kind = job::StateKind::menu;
    return s;
}

} // namespace

Result<std::vector<Command>> read_commands(std::string_view text, const std::string& name,
                                           const job::Job& job, const catalogue::Catalogue& parts) {
    return CommandReader(name, job, parts).run(text);
}

job::Edit take_commands(std::vector<Command> commands) {
    return [commands = std::move(commands)](job::Job& job) -> Result<void> {
        const auto state = [&](const std::string& name) {
            if (!name.empty() && !job::find_name(job.handling.states, name))
                job.handling.states.push_back(state_for(name));
        };
        for (const Command& c : commands) {
            state(c.state);
            state(c.leads);
            job.handling.commands.push_back(c);
            Command& added = job.handling.commands.back();
            if (added.leads == added.state) added.leads.clear();
        }
        return {};
    };
}

Result<std::vector<job::PresetTold>> read_presets_told(std::string_view text,
                                                       const std::string& name) {
    const CsvTable table = read_csv(text, name, most_rows);
    if (!table.problems.empty()) return tl::unexpected(table.problems.front());
    static const std::map<std::string, std::string> known{
        {"name", "name"},   {"preset", "name"}, {"font", "font"},    {"look", "look"},
        {"colour", "look"}, {"color", "look"},  {"track", "tracks"}, {"tracks", "tracks"},
        {"note", "note"},   {"notes", "note"},  {"remark", "note"},  {"wish", "note"}};
    std::map<std::string, std::size_t> columns;
    if (!table.records.empty()) columns = columns_of(table.records.front(), known);
    const bool named = columns.contains("name");
    if (!named) columns = {{"name", 0}, {"font", 1}, {"look", 2}, {"tracks", 3}, {"note", 4}};
    std::vector<job::PresetTold> all;
    for (std::size_t r = named ? 1 : 0; r < table.records.size(); ++r) {
        const auto& record = table.records[r];
        const auto cell = [&](const char* column) {
            const auto it = columns.find(column);
            return it != columns.end() && it->second < record.size()
                       ? cell_words(record[it->second].text)
                       : std::string();
        };
        job::PresetTold p{cell("name"), cell("font"), cell("look"), cell("tracks"), cell("note")};
        if (p.name.empty())
            return problem(fmt::format("{} line {}", name, record.front().line),
                           "the preset has no name", "Give each preset a name");
        all.push_back(std::move(p));
    }
    if (all.empty())
        return problem(name, "there are no presets in it",
                       "Write one in each line: name, font, look");
    return all;
}

std::string commands_csv(const job::Handling& map) {
    std::string text = csv_record(
        {"command", "state", "trigger", "does", "what", "leads", "preset", "blade", "source"});
    for (const Command& c : map.commands)
        text += csv_record(
            {c.name, c.state, job::trigger_text(c.trigger), std::string(job::word(c.does)), c.what,
             c.leads, c.preset,
             c.blade == job::BladeThere::any ? std::string() : std::string(job::word(c.blade)),
             c.source});
    return text;
}

} // namespace conductus::files
