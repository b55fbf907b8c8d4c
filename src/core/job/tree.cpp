// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/tree.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/job/fields.h"
#include "core/job/words.h"

namespace conductus::job {
namespace {

using catalogue::Catalogue;

// What tells the elements of a list apart; elements that are told apart by nothing go by order.
std::string identity(const BoreSection& s) { return s.name; }
std::string identity(const Joint& j) { return j.name; }
std::string identity(const Fastener& f) { return f.name; }
std::string identity(const Opening& o) { return o.name; }
std::string identity(const SocketBore&) { return ""; }
std::string identity(const SideBore&) { return ""; }
std::string identity(const Carrier& c) { return c.ref; }
std::string identity(const Part& p) { return p.ref; }
std::string identity(const Strip& s) { return s.ref; }
std::string identity(const Blade& b) { return b.ref; }
std::string identity(const GoesInto& g) { return g.socket; }
std::string identity(const Mated& m) { return m.socket; }
std::string identity(const Wire& w) { return w.ref; }
std::string identity(const MeasuredPin& p) { return p.pin; }
std::string identity(const ButtonUse& b) { return b.pad; }
std::string identity(const Soldered& s) { return s.wire; }
std::string identity(const Look& l) { return l.name; }
std::string identity(const Effect& e) { return e.name; }
std::string identity(const EffectLight& l) { return l.light; }
std::string identity(const Track& t) { return t.name; }
std::string identity(const LeftOut& l) { return l.effect; }
std::string identity(const Preset& p) { return p.name; }
std::string identity(const Resting& r) {
    return r.preset.empty() ? std::string(word(r.when))
                            : fmt::format("{} {}", word(r.when), r.preset);
}
std::string identity(const Plug& p) { return p.ref; }
std::string identity(const HandState& s) { return s.name; }
std::string identity(const Rehearsed& r) {
    return fmt::format("{} · {} · {}", r.who, r.state, r.command);
}
std::string identity(const MotionTest& m) { return m.movement; }
std::string identity(const BenchReading& r) {
    return fmt::format("{} · {} · {} · {}", r.state, word(r.what), r.from, r.to);
}
std::string identity(const BenchSymptom& s) {
    return s.where.empty() ? s.symptom : s.symptom + " " + s.where;
}
std::string identity(const BenchTried& t) { return t.step; }
std::string identity(const BenchMend& m) { return m.fault; }
std::string identity(const Practised& p) { return fmt::format("{} {:.0f}", p.level, p.seed); }
std::string identity(const DischargePoint&) { return ""; }
std::string identity(const DischargeLog& d) { return fmt::format("{} · {}", d.cell, d.name); }
std::string identity(const PresetTold& p) { return p.name; }
std::string identity(const FontSound& f) { return f.font; }
std::string identity(const CardFile& f) { return f.path; }
std::string identity(const MeantDifference& m) { return m.path; }
std::string identity(const TriggerButton& b) { return b.button; }
std::string identity(const Command& c) { return fmt::format("{} · {}", c.state, c.name); }
std::string identity(const Feed&) { return ""; }
std::string identity(const LedString& s) { return s.ref; }
std::string identity(const LightOverride& s) { return s.light; }
std::string identity(const Line& l) { return l.pad; }
std::string identity(const Stretch& s) { return s.name; }
std::string identity(const Variant& v) { return v.name; }
std::string identity(const Rate& r) { return std::string(word(r.kind)); }
std::string identity(const Phase&) { return ""; }
std::string identity(const Use& u) { return u.name; }
std::string identity(const WantedBlade&) { return ""; }
std::string identity(const Wish& w) { return w.text; }
std::string identity(const Agreement& a) { return a.text; }
std::string identity(const Inspected& i) { return i.item; }
std::string identity(const Picture& p) { return p.id; }
std::string identity(const FoundWire& w) { return w.from + "–" + w.to; }
std::string identity(const Setting& s) { return s.name; }
std::string identity(const LogEntry& e) { return e.on; }
std::string identity(const Answered& a) {
    return a.about.empty() ? a.finding : fmt::format("{} {}", a.finding, a.about);
}
std::string identity(const AnsweredFigure& f) { return f.label; }
std::string identity(const PlannedWith& p) { return p.type; }
std::string identity(const Milestone& m) { return fmt::format("{} {}", word(m.mark), m.on); }

std::string_view kind_word(const Part& part, const Catalogue& parts) {
    const catalogue::PartType* type = parts.find(part.type);
    return type ? catalogue::kind_of(type->figures).word : "part";
}

std::string title(const BoreSection& s, const Catalogue&) { return "section " + s.name; }
std::string title(const Joint& j, const Catalogue&) { return "joint " + j.name; }
std::string title(const Fastener& f, const Catalogue&) { return "screw " + f.name; }
std::string title(const Opening& o, const Catalogue&) { return "opening " + o.name; }
std::string title(const SocketBore&, const Catalogue&) { return "socket bore"; }
std::string title(const SideBore& b, const Catalogue&) { return "bore of socket " + b.socket; }
std::string title(const Carrier& c, const Catalogue&) { return "carrier " + c.ref; }
std::string title(const Part& p, const Catalogue& parts) {
    return fmt::format("{} {}", kind_word(p, parts), p.ref);
}
std::string title(const Strip& s, const Catalogue&) { return "strip " + s.ref; }
std::string title(const Blade& b, const Catalogue&) { return "blade " + b.ref; }
std::string title(const GoesInto& g, const Catalogue&) { return "also into " + g.socket; }
std::string title(const Mated& m, const Catalogue&) { return "socket " + m.socket; }
std::string title(const Wire& w, const Catalogue&) { return "wire " + w.ref; }
std::string title(const MeasuredPin& p, const Catalogue&) { return "pin " + p.pin; }
std::string title(const ButtonUse& b, const Catalogue&) { return "button pad " + b.pad; }
std::string title(const PlannedWith& p, const Catalogue&) { return "own part " + p.type; }
std::string title(const Soldered& s, const Catalogue&) { return "soldered " + s.wire; }
std::string title(const Look& l, const Catalogue&) { return "look " + l.name; }
std::string title(const Effect& e, const Catalogue&) { return "effect " + e.name; }
std::string title(const EffectLight& l, const Catalogue&) { return "light " + l.light; }
std::string title(const Track& t, const Catalogue&) { return "track " + t.name; }
std::string title(const LeftOut& l, const Catalogue&) { return "without " + l.effect; }
std::string title(const Preset& p, const Catalogue&) { return "preset " + p.name; }
std::string title(const Resting& r, const Catalogue&) { return "lights " + identity(r); }
std::string title(const Plug& p, const Catalogue&) { return "plug " + p.ref; }
std::string title(const HandState& s, const Catalogue&) { return "state " + s.name; }
std::string title(const Rehearsed& r, const Catalogue&) {
    return fmt::format("command {} by heart, {}", r.command, r.who);
}
std::string title(const MotionTest& m, const Catalogue&) { return "movement " + m.movement; }
std::string title(const BenchReading& r, const Catalogue&) {
    return fmt::format("reading of {} at {} in the state {}", word(r.what),
                       r.to.empty() ? r.from : r.from + " to " + r.to, r.state);
}
std::string title(const BenchSymptom& s, const Catalogue&) { return "symptom " + identity(s); }
std::string title(const BenchTried& t, const Catalogue&) { return "test step " + t.step; }
std::string title(const BenchMend& m, const Catalogue&) { return "mended: " + m.says; }
std::string title(const Practised& p, const Catalogue&) {
    return fmt::format("practised level {}, case {:.0f}", p.level, p.seed);
}
std::string title(const DischargePoint&, const Catalogue&) { return "moment of a discharge"; }
std::string title(const DischargeLog& d, const Catalogue&) {
    return fmt::format("discharge of {}", d.cell);
}
std::string title(const PresetTold& p, const Catalogue&) { return "preset " + p.name; }
std::string title(const FontSound& f, const Catalogue&) { return "sounds of font " + f.font; }
std::string title(const CardFile& f, const Catalogue&) { return "file " + f.path; }
std::string title(const MeantDifference& m, const Catalogue&) { return "difference " + m.path; }
std::string title(const TriggerButton& b, const Catalogue&) { return "button " + b.button; }
std::string title(const Command& c, const Catalogue&) { return "command " + c.name; }
std::string title(const Feed&, const Catalogue&) { return "feed"; }
std::string title(const LedString& s, const Catalogue&) { return "LED string " + s.ref; }
std::string title(const LightOverride& s, const Catalogue&) { return "light " + s.light; }
std::string title(const Line& l, const Catalogue&) { return "data line " + l.pad; }
std::string title(const Stretch& s, const Catalogue&) { return "stretch " + s.name; }
std::string title(const Variant& v, const Catalogue&) { return "variant " + v.name; }
std::string title(const Rate& r, const Catalogue&) {
    return fmt::format("rate of {}", word(r.kind));
}
std::string title(const Phase& p, const Catalogue&) {
    return fmt::format("{} for {}", word(p.kind), duration(p.lasts));
}
std::string title(const Use& u, const Catalogue&) { return "use " + u.name; }
std::string title(const WantedBlade&, const Catalogue&) { return "wanted blade"; }
std::string title(const Wish& w, const Catalogue&) { return fmt::format("wish “{}”", w.text); }
std::string title(const Agreement& a, const Catalogue&) {
    return fmt::format("agreement “{}”", a.text);
}
std::string title(const Inspected& i, const Catalogue&) { return "inspected " + i.item; }
std::string title(const Picture& p, const Catalogue&) {
    return p.caption.empty() ? "picture" : fmt::format("picture “{}”", p.caption);
}
std::string title(const FoundWire& w, const Catalogue&) {
    return fmt::format("wire found {} – {}", w.from, w.to);
}
std::string title(const Setting& s, const Catalogue&) { return "setting found " + s.name; }
std::string title(const Answered& a, const Catalogue&) {
    return fmt::format("answer to {}", identity(a));
}
std::string title(const AnsweredFigure& f, const Catalogue&) { return "figure " + f.label; }
std::string title(const LogEntry& e, const Catalogue&) { return "note of " + e.on; }
std::string title(const Milestone& m, const Catalogue&) {
    return fmt::format("milestone {} of {}", word(m.mark), m.on);
}

/// Units that stand at the end of keys, longest first.
constexpr std::array<std::string_view, 11> units{
    "_V", "_Ohm_per_m", "_degC", "_Ohm", "_mAh", "_awg", "_min", "_deg", "_mm", "_s", "_A"};

std::string_view unit_of(std::string_view key) {
    for (const auto u : units)
        if (key.ends_with(u)) return u.substr(1);
    return {};
}

/// Words for the keys whose own letters do not say it.
std::string words_for(std::string_view key) {
    constexpr std::array<std::pair<std::string_view, std::string_view>, 33> table{{
        {"at_mm", "start"},
        {"off_axis_mm", "place off the axis"},
        {"clean_min", "clean runtime wanted"},
        {"ignited_min", "ignited a day"},
        {"idle_min", "idle a day"},
        {"lasts_s", "time it lasts"},
        {"lasts_min", "time it lasts"},
        {"pause_min", "idle in between"},
        {"from_mm", "from"},
        {"to_mm", "to"},
        {"outer_mm", "outer diameter"},
        {"cap", "brightness cap"},
        {"opens", "end it opens at"},
        {"gauge_awg", "gauge"},
        {"chassis_wall_mm", "chassis wall"},
        {"lead_Ohm", "lead"},
        {"rail_Ohm_per_m", "measured rail"},
        {"promised", "date promised"},
        {"occasion", "use"},
        {"swap", "swap of cells"},
        {"by", "shown by"},
        {"on", "date"},
        {"that_day", "figure of that day"},
        {"as_found", "as found"},
        {"side_mm", "place to the side"},
        {"turn_deg", "turn about the axis"},
        {"bore_end_mm", "bore at its far end"},
        {"outer_end_mm", "outer diameter at its far end"},
        {"engaged_mm", "engaged length"},
        {"loosen", "whether it may be loosened"},
        {"goes_in", "end it goes in by"},
        {"nominal_mm", "nominal diameter"},
        {"wall_mm", "wall"},
    }};
    for (const auto& [k, w] : table)
        if (k == key) return std::string(w);
    const std::string_view unit = unit_of(key);
    std::string stem(key.substr(0, unit.empty() ? key.size() : key.size() - unit.size() - 1));
    std::replace(stem.begin(), stem.end(), '_', ' ');
    return stem;
}

std::string number_text(double value, std::string_view unit, bool exactly) {
    if (unit == "awg") return fmt::format("{} AWG", value);
    const std::string number = exactly ? fmt::format("{}", value) : std::string();
    if (unit.empty()) return exactly ? number : three_figures(value);
    if (!exactly)
        return unit == "Ohm_per_m" ? three_figures(value) + "\u202fΩ/m" : with_unit(value, unit);
    return fmt::format("{}\u202f{}", number,
                       unit == "Ohm_per_m" ? "Ω/m"
                       : unit == "Ohm"     ? "Ω"
                                           : unit);
}

/// A visitor of describe() that makes the tree.
class TreeWriter {
public:
    TreeWriter(Node& node, const Catalogue& parts) : node_(node), parts_(parts) {}

    void text(const char* key, const std::string& value) {
        std::string shown = value;
        const bool type = std::string_view(key) == "type" ||
                          std::string_view(key) == "protection" ||
                          std::string_view(key) == "adapter" || std::string_view(key) == "bay" ||
                          std::string_view(key) == "charger";
        if (type)
            if (const auto* t = parts_.find(value)) shown = t->name;
        leaf(key, shown, value);
    }
    void optional_text(const char* key, const std::optional<std::string>& value) {
        value ? text(key, *value) : leaf(key, "", "");
    }
    void number(const char* key, double value, limits::Range) {
        const auto unit = unit_of(key);
        leaf(key, number_text(value, unit, false), number_text(value, unit, true));
    }
    template <class Unit>
    void number(const char* key, Quantity<Unit> value, limits::Range range) {
        number(key, value.value(), range);
    }
    template <class Unit>
    void optional_number(const char* key, const std::optional<Quantity<Unit>>& value,
                         limits::Range range) {
        value ? number(key, value->value(), range) : leaf(key, "", "");
    }
    void optional_number(const char* key, const std::optional<double>& value, limits::Range range) {
        value ? number(key, *value, range) : leaf(key, "", "");
    }
    void usual_text(const char* key, const std::string& value) { text(key, value); }
    template <class Unit>
    void usual_number(const char* key, Quantity<Unit> value, limits::Range range) {
        number(key, value, range);
    }
    template <class E>
    void usual_word(const char* key, E value) {
        word(key, value);
    }
    void integer(const char* key, int value, limits::Range range) {
        number(key, static_cast<double>(value), range);
    }
    void usual_number(const char* key, double value, limits::Range range) {
        number(key, value, range);
    }
    void usual_integer(const char* key, int value, limits::Range range) {
        integer(key, value, range);
    }
    template <class T>
    void maybe_object(const char* key, const std::optional<T>& value) {
        if (value) object(key, *value);
    }
    void usual_flag(const char* key, bool value) {
        if (value) flag(key, value);
    }
    void flag(const char* key, bool value) {
        leaf(key, value ? "yes" : "no", value ? "yes" : "no");
    }
    template <class E>
    void word(const char* key, E value) {
        leaf(key, std::string(job::word(value)), std::string(job::word(value)));
    }
    template <class T>
    void object(const char* key, const T& value) {
        Node& node = add(Node::Kind::object, key, words_for(key));
        TreeWriter inner(node, parts_);
        describe(inner, value);
    }
    template <class T>
    void optional_object(const char* key, const T& value) {
        object(key, value);
    }
    template <class T>
    void list(const char* key, const std::vector<T>& values) {
        Node& node = add(Node::Kind::list, key, words_for(key));
        node.children.reserve(values.size());
        for (const T& value : values) {
            std::string id = identity(value);
            std::size_t same = 1;
            for (const Node& other : node.children)
                same += other.key == id || other.key.starts_with(id + "#");
            if (same > 1 || id.empty()) id += fmt::format("#{}", same);
            Node& element = node.children.emplace_back();
            element.kind = Node::Kind::object;
            element.title = title(value, parts_);
            TreeWriter inner(element, parts_);
            inner.name_ = identity(value);
            describe(inner, value);
            element.key = std::move(id);
        }
    }
    template <class T>
    void optional_list(const char* key, const std::vector<T>& values) {
        list(key, values);
    }

private:
    Node& add(Node::Kind kind, const char* key, std::string title) {
        Node& node = node_.children.emplace_back();
        node.kind = kind;
        node.key = key;
        node.title = std::move(title);
        return node;
    }
    void leaf(const char* key, std::string shown, std::string exact) {
        Node& node = add(Node::Kind::value, key, words_for(key));
        node.naming = !name_.empty() && exact == name_ && !named_;
        named_ = named_ || node.naming;
        node.shown = std::move(shown);
        node.exact = std::move(exact);
    }
    Node& node_;
    const Catalogue& parts_;
    std::string name_;
    bool named_ = false;
};

} // namespace

Node tree_of(const Job& job, const Catalogue& parts) {
    Node root;
    root.kind = Node::Kind::object;
    root.title = job.name;
    TreeWriter writer(root, parts);
    describe(writer, job);
    return root;
}

} // namespace conductus::job
