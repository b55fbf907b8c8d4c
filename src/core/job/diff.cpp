// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/diff.h"

#include <algorithm>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <optional>

#include "core/job/tree.h"

namespace conductus::job {
namespace {

constexpr std::size_t nobody = static_cast<std::size_t>(-1);
constexpr std::size_t longest_quote = 60;

std::string escaped(const std::string& key) {
    std::string out;
    for (const char c : key)
        out += c == '~' ? "~0" : c == '/' ? "~1" : std::string(1, c);
    return out;
}

bool equal(const Node& a, const Node& b) {
    return a.exact == b.exact && a.children.size() == b.children.size() &&
           std::equal(a.children.begin(), a.children.end(), b.children.begin(), equal);
}

/// How much of two elements of a list is the same: values at one level.
std::size_t likeness(const Node& a, const Node& b) {
    std::size_t same = 0;
    for (std::size_t i = 0; i < std::min(a.children.size(), b.children.size()); ++i)
        same += equal(a.children[i], b.children[i]);
    return same;
}

/// Whether two elements of a list say of themselves that they are of one type.
bool alike_in_type(const Node& a, const Node& b) {
    for (const Node& x : a.children)
        for (const Node& y : b.children)
            if (x.key == "type" && y.key == "type" && x.exact != y.exact) return false;
    return true;
}

/// For each element of `a`, its place in `b` or nobody: by key, then those left by likeness.
std::vector<std::size_t> matched(const std::vector<Node>& a, const std::vector<Node>& b) {
    std::vector<std::size_t> to(a.size(), nobody);
    std::vector<bool> taken(b.size(), false);
    for (std::size_t i = 0; i < a.size(); ++i)
        for (std::size_t j = 0; j < b.size(); ++j)
            if (!taken[j] && a[i].key == b[j].key) {
                to[i] = j;
                taken[j] = true;
                break;
            }
    for (std::size_t i = 0; i < a.size(); ++i) {
        if (to[i] != nobody) continue;
        // More than half the same is the same thing under another name; not another type of thing.
        std::size_t best = nobody, most = a[i].children.size() / 2;
        for (std::size_t j = 0; j < b.size(); ++j)
            if (!taken[j] && alike_in_type(a[i], b[j]))
                if (const std::size_t same = likeness(a[i], b[j]); same > most) {
                    most = same;
                    best = j;
                }
        if (best == nobody) continue;
        to[i] = best;
        taken[best] = true;
    }
    return to;
}

std::size_t letter_start(const std::string& text, std::size_t at) {
    while (at > 0 && (static_cast<unsigned char>(text[at]) & 0xc0) == 0x80)
        --at;
    return at;
}

/// A long text from shortly before `from`, in quotes.
std::string quoted(const std::string& text, std::size_t from) {
    if (text.size() <= longest_quote) return fmt::format("“{}”", text);
    const std::size_t start = letter_start(text, from > 12 ? from - 12 : 0);
    std::size_t end = std::min(text.size(), start + longest_quote);
    if (end < text.size()) end = letter_start(text, end);
    return fmt::format("“{}{}{}”", start > 0 ? "…" : "", text.substr(start, end - start),
                       end < text.size() ? "…" : "");
}

bool is_prose(const std::string& text) {
    return text.size() > longest_quote || text.find('\n') != std::string::npos;
}

/// "31 → 88 min": the unit once where both have it.
Message arrow(const Node& a, const Node& b) {
    const bool shown_differ = a.shown != b.shown;
    const std::string& before = shown_differ ? a.shown : a.exact;
    const std::string& after = shown_differ ? b.shown : b.exact;
    if (is_prose(before) || is_prose(after)) {
        const auto at = static_cast<std::size_t>(
            std::mismatch(before.begin(), before.end(), after.begin(), after.end()).first -
            before.begin());
        return say("{} → {}", quoted(before, at), quoted(after, at));
    }
    auto said = [](const std::string& s) { return s.empty() ? Message("nothing") : Message(s); };
    constexpr std::string_view thin = "\u202f";
    const auto u = before.rfind(thin), v = after.rfind(thin);
    if (u != std::string::npos && v != std::string::npos && before.substr(u) == after.substr(v))
        return say("{} → {}", before.substr(0, u), after);
    return say("{} → {}", said(before), said(after));
}

/// All values below a node that are set, but the one it is called by.
void tell(const Node& node, std::vector<std::string>& out) {
    for (const Node& child : node.children) {
        if (child.kind != Node::Kind::value)
            tell(child, out);
        else if (!child.exact.empty() && !child.naming && child.key != "kept" && child.key != "id")
            out.push_back(
                fmt::format("{} {}", child.title,
                            is_prose(child.shown) ? quoted(child.shown, 0) : child.shown));
    }
}

class Comparison {
public:
    std::vector<Change> found;

    /// `of`: what the field belongs to, in words; empty for the job itself.
    void compare(const Node& a, const Node& b, const std::string& path, const std::string& of) {
        if (a.kind == Node::Kind::value) {
            if (a.exact != b.exact) changed(a, b, path, of);
        } else if (a.kind == Node::Kind::list) {
            compare_lists(a, b, path, of);
        } else {
            for (std::size_t i = 0; i < a.children.size(); ++i) {
                const Node& x = a.children[i];
                const bool named = x.kind == Node::Kind::object;
                compare(x, b.children[i], path + "/" + escaped(x.key),
                        named ? within(of, x.title) : of);
            }
        }
    }

private:
    static std::string within(const std::string& of, const std::string& title) {
        return of.empty() ? title : of + ", " + title;
    }

    void changed(const Node& a, const Node& b, const std::string& path, const std::string& of) {
        const bool differ = a.shown != b.shown;
        // What a part is needs no name of the field.
        const std::string subject = a.key == "type" ? of : within(of, a.title);
        found.push_back({Change::Kind::changed, path, differ ? a.shown : a.exact,
                         differ ? b.shown : b.exact, say("{}: {}", subject, arrow(a, b))});
    }

    void compare_lists(const Node& a, const Node& b, const std::string& path,
                       const std::string& of) {
        const auto to = matched(a.children, b.children);
        std::vector<bool> taken(b.children.size(), false);
        bool in_order = true;
        std::size_t last = 0;
        for (std::size_t i = 0; i < a.children.size(); ++i) {
            const Node& x = a.children[i];
            const std::string here = path + "/" + escaped(x.key);
            if (to[i] == nobody) {
                found.push_back({Change::Kind::removed, here, x.title, "",
                                 say("{} removed", within(of, x.title))});
                continue;
            }
            taken[to[i]] = true;
            in_order = in_order && to[i] >= last;
            last = to[i];
            compare(x, b.children[to[i]], here, within(of, x.title));
        }
        for (std::size_t j = 0; j < b.children.size(); ++j) {
            if (taken[j]) continue;
            const Node& y = b.children[j];
            std::vector<std::string> says;
            tell(y, says);
            found.push_back({Change::Kind::added, path + "/" + escaped(y.key), "", y.title,
                             says.empty() ? say("{} added", within(of, y.title))
                                          : say("{} added: {}", within(of, y.title),
                                                conductus::joined(says, ", "))});
        }
        if (!in_order) {
            std::vector<std::string> titles;
            for (const Node& y : b.children)
                titles.push_back(y.title);
            found.push_back(
                {Change::Kind::moved, path, "", "",
                 say("order of the {}: {}", within(of, a.title), conductus::joined(titles, ", "))});
        }
    }
};

} // namespace

std::vector<Change> changes(const Job& before, const Job& after,
                            const catalogue::Catalogue& parts) {
    Comparison comparison;
    comparison.compare(tree_of(before, parts), tree_of(after, parts), "", "");
    return std::move(comparison.found);
}

} // namespace conductus::job
