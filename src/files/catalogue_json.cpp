// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/catalogue_json.h"

#include <algorithm>
#include <cstdlib>

#include "files/json_visitors.h"

namespace conductus::catalogue {
namespace {

using job::limits::Range;
constexpr Range size_mm{0.1, 2000}, positive{1e-9, 1e6}, zero_or_more{0, 1e6}, count{0, 100000};

} // namespace

} // namespace conductus::catalogue

namespace conductus::job {

template <>
struct Words<catalogue::Body::Shape> {
    static constexpr WordTable<catalogue::Body::Shape, 3> table{
        {{catalogue::Body::Shape::cylinder, "cylinder"},
         {catalogue::Body::Shape::box, "box"},
         {catalogue::Body::Shape::compound, "compound"}}};
};
template <>
struct Words<catalogue::Kill::Method> {
    static constexpr WordTable<catalogue::Kill::Method, 2> table{
        {{catalogue::Kill::Method::slide_switch, "switch"},
         {catalogue::Kill::Method::plug, "plug"}}};
};
template <>
struct Words<catalogue::Button::Action> {
    static constexpr WordTable<catalogue::Button::Action, 2> table{
        {{catalogue::Button::Action::momentary, "momentary"},
         {catalogue::Button::Action::latching, "latching"}}};
};

} // namespace conductus::job

namespace conductus::catalogue {

template <class V>
void describe(V& v, BodyPiece& p) {
    v.word("shape", p.shape);
    v.number("from_mm", p.from, zero_or_more);
    v.number("length_mm", p.length, size_mm);
    v.usual_number("up_mm", p.up, {-100, 100});
    v.usual_number("side_mm", p.side, {-100, 100});
    if (p.shape == Body::Shape::cylinder) {
        v.number("diameter_mm", p.diameter, size_mm);
    } else {
        v.number("width_mm", p.width, size_mm);
        v.number("height_mm", p.height, size_mm);
    }
    if (p.shape == Body::Shape::compound)
        v.invalid("shape", "a piece of a compound is a cylinder or a box", "Write one of them");
}

template <class V>
void describe(V& v, Body& b) {
    v.word("shape", b.shape);
    v.number("length_mm", b.length, size_mm);
    if (b.shape == Body::Shape::compound) {
        v.list("pieces", b.pieces);
        if (b.pieces.empty())
            v.invalid("pieces", "a compound has no pieces", "Describe at least one");
        for (const BodyPiece& p : b.pieces)
            if (p.from + p.length > b.length + Millimetre(1e-9))
                v.invalid("pieces", "a piece is longer than the body", "Make the body longer");
    } else if (b.shape == Body::Shape::cylinder) {
        v.number("diameter_mm", b.diameter, size_mm);
    } else {
        v.number("width_mm", b.width, size_mm);
        v.number("height_mm", b.height, size_mm);
    }
}

template <class V>
void describe(V& v, Cell& c) {
    v.text("size", c.size);
    v.number("capacity_mAh", c.capacity, positive);
    v.number("continuous_A", c.continuous, positive);
    v.number("resistance_Ohm", c.resistance, positive);
}

template <class V>
void describe(V& v, Protection& p) {
    v.number("resistance_Ohm", p.resistance, zero_or_more);
    v.number("trip_A", p.trip, positive);
    v.number("cut_off_V", p.cut_off, positive);
    v.number("adds_mm", p.adds, zero_or_more);
}

template <class V>
void describe(V& v, Board& b) {
    v.number("active_A", b.active, zero_or_more);
    v.number("idle_A", b.idle, zero_or_more);
    v.number("sleep_A", b.sleep, positive);
    v.number("pad_resistance_Ohm", b.pad_resistance, zero_or_more);
    v.number("pad_rating_A", b.pad_rating, positive);
    v.number("total_rating_A", b.total_rating, positive);
    v.integer("max_pixels", b.max_pixels, count);
    v.number("clean_min_V", b.clean_min, positive);
    v.flag("boosted_rail", b.boosted);
    v.number("headroom_V", b.headroom, zero_or_more);
    v.number("amplifier_efficiency", b.amplifier_efficiency, {0.1, 1});
    v.number("reset_V", b.reset, positive);
    v.number("cut_off_V", b.cut_off, positive);
}

template <class V>
void describe(V& v, Speaker& s) {
    v.number("impedance_Ohm", s.impedance, positive);
    v.number("power_W", s.power, positive);
}

template <class V>
void describe(V& v, Spacer& s) {
    v.flag("closed", s.closed);
}

template <class V>
void describe(V& v, Kill& k) {
    v.word("method", k.method);
    v.number("contact_Ohm", k.contact, zero_or_more);
    v.number("rating_A", k.rating, positive);
}

template <class V>
void describe(V& v, Button& b) {
    v.word("action", b.action);
}

template <class V>
void describe(V& v, Connector& c) {
    v.integer("plus_pins", c.plus_pins, {1, 32});
    v.integer("minus_pins", c.minus_pins, {1, 32});
    v.integer("data_pins", c.data_pins, {0, 32});
    v.number("pin_resistance_Ohm", c.pin_resistance, zero_or_more);
    v.number("pin_rating_A", c.pin_rating, positive);
    v.usual_number("travel_mm", c.travel, zero_or_more);
    v.usual_number("pitch_mm", c.pitch, zero_or_more);
}

template <class V>
void describe(V& v, Channel& c) {
    std::string colour;
    v.text("colour", colour);
    c.colour = colour.empty() ? '?' : colour[0];
    v.number("full_A", c.full, positive);
    v.number("on_V", c.on, positive);
    v.number("luminous", c.luminous, zero_or_more);
}

template <class V>
void describe(V& v, Pixel& p) {
    v.list("channels", p.channels);
    v.number("knee_V", p.knee, positive);
    v.number("quiet_A", p.quiet, zero_or_more);
}

template <class V>
void describe(V& v, Strip& s) {
    v.text("pixel", s.pixel);
    v.number("density_per_m", s.density, positive);
    v.number("rail_Ohm_per_m", s.rail, positive);
    v.number("width_mm", s.width, size_mm);
}

namespace {

template <class V, class T>
bool figures_if(V& v, const std::string& kind, const char* name, Figures& figures) {
    if (kind != name) return false;
    v.object(name, figures.emplace<T>());
    return true;
}

} // namespace

template <class V>
void describe(V& v, PartType& p) {
    std::string kind;
    v.text("id", p.id);
    v.text("kind", kind);
    v.text("name", p.name);
    v.object("body", p.body);
    v.number("mass_g", p.mass, zero_or_more);
    v.number("thermal_K_per_W", p.thermal, positive);
    v.list("terminals", p.terminals);
    const bool known = figures_if<V, Cell>(v, kind, "cell", p.figures) ||
                       figures_if<V, Protection>(v, kind, "protection", p.figures) ||
                       figures_if<V, Board>(v, kind, "board", p.figures) ||
                       figures_if<V, Speaker>(v, kind, "speaker", p.figures) ||
                       figures_if<V, Kill>(v, kind, "kill", p.figures) ||
                       figures_if<V, Button>(v, kind, "button", p.figures) ||
                       figures_if<V, Connector>(v, kind, "connector", p.figures) ||
                       figures_if<V, Pixel>(v, kind, "pixel", p.figures) ||
                       figures_if<V, Strip>(v, kind, "strip", p.figures) ||
                       figures_if<V, Spacer>(v, kind, "spacer", p.figures);
    if (!known)
        v.invalid(
            "kind", "'" + kind + "' is not a kind of part",
            "Write cell, protection, board, speaker, kill, button, connector, pixel, strip or "
            "spacer");
}

} // namespace conductus::catalogue

namespace conductus::files {
namespace {

/// One catalogue file.
struct CatalogueFile {
    std::string format;
    int version = 0;
    std::vector<catalogue::PartType> parts;
};

template <class V>
void describe(V& v, CatalogueFile& f) {
    v.text("format", f.format);
    v.integer("version", f.version, {1, 1});
    v.list("parts", f.parts);
}

Result<void> read_one(const std::filesystem::path& path, catalogue::Catalogue& catalogue) {
    const auto text = read_text(path);
    if (!text) return tl::unexpected(text.error());
    const std::string name = path.filename().string();
    const auto json = parse_json(*text, name);
    if (!json) return tl::unexpected(json.error());
    if (!json->is_object() || json->value("format", "") != "conductus-catalogue")
        return problem(name, "this is not a Conductus catalogue",
                       "It starts with \"format\": \"conductus-catalogue\"");
    ReadContext context{name, {}};
    JsonReader reader(*json, "", context);
    CatalogueFile file;
    describe(reader, file);
    reader.finish();
    if (context.first) return tl::unexpected(*context.first);
    for (auto& part : file.parts)
        if (auto ok = catalogue.add(std::move(part)); !ok) {
            Problem p = ok.error();
            p.where = name + " " + p.where;
            return tl::unexpected(p);
        }
    return {};
}

} // namespace

namespace {

/// Adds every *.json of a folder, in the order of their names; says how many there were.
Result<std::size_t> read_folder(const std::filesystem::path& folder,
                                catalogue::Catalogue& catalogue) {
    std::vector<std::filesystem::path> paths;
    std::error_code error;
    for (const auto& entry : std::filesystem::directory_iterator(folder, error))
        if (entry.path().extension() == ".json") paths.push_back(entry.path());
    std::sort(paths.begin(), paths.end());
    for (const auto& path : paths)
        if (auto ok = read_one(path, catalogue); !ok) return tl::unexpected(ok.error());
    return paths.size();
}

/// Empty where the machine has no home.
std::filesystem::path own_parts() {
    if (const char* set = std::getenv("XDG_DATA_HOME"); set && *set)
        return std::filesystem::path(set) / "conductus/catalogue";
    if (const char* home = std::getenv("HOME"); home && *home)
        return std::filesystem::path(home) / ".local/share/conductus/catalogue";
    return {};
}

} // namespace

Result<catalogue::Catalogue> read_catalogue(const std::filesystem::path& folder) {
    catalogue::Catalogue catalogue;
    const auto count = read_folder(folder, catalogue);
    if (!count) return tl::unexpected(count.error());
    if (*count == 0)
        return problem(folder.string(), "there is no catalogue here",
                       "Set CONDUCTUS_DATA to the folder with catalogue/, demo/ and fonts/");
    return catalogue;
}

Result<catalogue::Catalogue> read_catalogues(const std::filesystem::path& data) {
    auto catalogue = read_catalogue(data / "catalogue");
    if (!catalogue) return catalogue;
    const auto own = own_parts();
    if (own.empty()) return catalogue;
    if (const auto count = read_folder(own, *catalogue); !count) {
        Problem p = count.error();
        p.where = own.string() + "/" + p.where;
        return tl::unexpected(p);
    }
    return catalogue;
}

Result<std::filesystem::path> find_data(const std::filesystem::path& executable) {
    std::vector<std::filesystem::path> candidates;
    if (const char* set = std::getenv("CONDUCTUS_DATA")) candidates.emplace_back(set);
    const auto folder = executable.parent_path();
    candidates.push_back(folder / "../share/conductus");
    candidates.push_back(folder / "../../data");
    std::error_code error;
    for (const auto& c : candidates)
        if (std::filesystem::is_directory(c / "catalogue", error))
            return std::filesystem::weakly_canonical(c, error);
    return problem(folder.string(), "the data folder of Conductus is not beside the program",
                   "Set CONDUCTUS_DATA to the folder with catalogue/, demo/ and fonts/");
}

std::filesystem::path this_executable() {
    std::error_code error;
    return std::filesystem::read_symlink("/proc/self/exe", error);
}

} // namespace conductus::files
