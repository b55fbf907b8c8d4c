// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/catalogue_json.h"

#include <algorithm>
#include <cstdlib>

#include "core/job/part_type_fields.h"
#include "files/json_visitors.h"
#include "files/parts_csv.h"

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

/// A part, the file it is from, and its definition there.
struct Read {
    std::string name;
    catalogue::PartType part;
    std::string written;
    std::string where; ///< file and line
};

template <class T>
Result<T> read_object(const Json& json, const std::string& name) {
    ReadContext context{name, {}};
    JsonReader reader(json, context);
    T value;
    describe(reader, value);
    reader.finish();
    if (context.first) return tl::unexpected(*context.first);
    return value;
}

/// "parts.json /parts/3/mass_g" says which line that is, too.
Problem with_line(Problem p, std::string_view text) {
    if (const auto at = p.where.find(" /"); at != std::string::npos)
        if (const auto line = line_of(text, std::string_view(p.where).substr(at + 1)); line > 0)
            p.where =
                fmt::format("{}, line {},{}", p.where.substr(0, at), line, p.where.substr(at));
    return p;
}

Result<std::vector<Read>> read_file(const std::string& text, const std::string& name) {
    const auto json = parse_json(text, name);
    if (!json) return tl::unexpected(json.error());
    const auto format = json->is_object() ? json->find("format") : json->end();
    if (!json->is_object() || format == json->end() || *format != "conductus-catalogue")
        return problem(name + ", line 1", "this is not a Conductus catalogue",
                       "It starts with \"format\": \"conductus-catalogue\"", Cause::foreign);
    auto file = read_object<CatalogueFile>(*json, name);
    if (!file) return tl::unexpected(with_line(file.error(), text));
    std::vector<Read> all;
    for (std::size_t i = 0; i < file->parts.size(); ++i) {
        const std::string pointer = fmt::format("/parts/{}", i);
        all.push_back({name, std::move(file->parts[i]), json_text((*json)["parts"][i]),
                       fmt::format("{}, line {},", name, line_of(text, pointer))});
    }
    return all;
}

Result<std::vector<Read>> read_one(const std::filesystem::path& path) {
    const auto text = read_text(path);
    if (!text) return tl::unexpected(text.error());
    return read_file(*text, path_text(path.filename()));
}

} // namespace

namespace {

std::vector<std::filesystem::path> catalogue_files(const std::filesystem::path& folder) {
    std::vector<std::filesystem::path> paths;
    std::error_code error;
    for (const auto& entry : std::filesystem::directory_iterator(folder, error))
        if (entry.path().extension() == ".json") paths.push_back(entry.path());
    std::sort(paths.begin(), paths.end());
    return paths;
}

/// Adds parts, classes of pixels first: others name them, in whichever file they are.
Result<void> add_all(std::vector<Read> all, bool own, catalogue::Catalogue& catalogue) {
    std::stable_partition(all.begin(), all.end(), [](const Read& r) {
        return std::holds_alternative<catalogue::Pixel>(r.part.figures);
    });
    for (Read& r : all) {
        auto ok = own ? catalogue.add_own(std::move(r.part), std::move(r.written))
                      : catalogue.add(std::move(r.part));
        if (ok) continue;
        Problem p = ok.error();
        p.where = r.where + " " + p.where;
        return tl::unexpected(p);
    }
    return {};
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

Result<catalogue::PartType> parse_part(std::string_view text, const std::string& name) {
    const auto json = parse_json(text, name);
    if (!json) return tl::unexpected(json.error());
    if (!json->is_object())
        return problem(name, say("this is {}, not a part", kind_of(*json)), "Write it in { }");
    return read_object<catalogue::PartType>(*json, name);
}

std::string part_text(const catalogue::PartType& type) {
    JsonWriter writer(true);
    describe(writer, type);
    return json_text(writer.json);
}

std::string catalogue_text(const std::vector<catalogue::PartType>& types) {
    Json file{{"format", "conductus-catalogue"}, {"version", 1}, {"parts", Json::array()}};
    for (const catalogue::PartType& type : types) {
        JsonWriter writer(true);
        describe(writer, type);
        file["parts"].push_back(std::move(writer.json));
    }
    return json_text(file) + "\n";
}

Result<std::vector<catalogue::PartType>> read_parts(std::string_view text,
                                                    const std::string& name) {
    const auto first = text.find_first_not_of(" \t\r\n");
    if (first == std::string_view::npos || text[first] != '{') return read_parts_csv(text, name);
    const auto json = parse_json(text, name);
    if (!json) return tl::unexpected(json.error());
    std::vector<catalogue::PartType> all;
    if (json->contains("kind") && !json->contains("format")) {
        auto one = parse_part(text, name);
        if (!one) return tl::unexpected(one.error());
        all.push_back(std::move(*one));
        return all;
    }
    auto file = read_file(std::string(text), name);
    if (!file) return tl::unexpected(file.error());
    for (Read& read : *file)
        all.push_back(std::move(read.part));
    return all;
}

Result<catalogue::Catalogue> read_catalogue(const std::filesystem::path& folder) {
    catalogue::Catalogue catalogue;
    std::vector<Read> all;
    const auto files = catalogue_files(folder);
    for (const auto& path : files) {
        auto read = read_one(path);
        if (!read) return tl::unexpected(read.error());
        std::move(read->begin(), read->end(), std::back_inserter(all));
    }
    if (files.empty())
        return problem(path_text(folder), "there is no catalogue here",
                       "Set CONDUCTUS_DATA to the folder with catalogue/, demo/ and fonts/");
    if (auto ok = add_all(std::move(all), false, catalogue); !ok) return tl::unexpected(ok.error());
    return catalogue;
}

Result<Catalogues> read_catalogues(const std::filesystem::path& data) {
    auto shipped = read_catalogue(data / "catalogue");
    if (!shipped) return tl::unexpected(shipped.error());
    Catalogues all{std::move(*shipped), {}};
    const auto own = own_parts();
    if (own.empty()) return all;
    const auto skip = [&](Problem p) {
        p.where = path_text(own) + "/" + p.where;
        p.what = say("this file of own parts is left out: {}", p.what);
        all.skipped.push_back(std::move(p));
    };
    // A part may name a class of pixels of a later file, so what fails is tried once more.
    std::vector<std::vector<Read>> again;
    for (const auto& path : catalogue_files(own)) {
        auto read = read_one(path);
        if (!read) {
            skip(read.error());
            continue;
        }
        catalogue::Catalogue with = all.parts;
        if (add_all(*read, true, with))
            all.parts = std::move(with);
        else
            again.push_back(std::move(*read));
    }
    for (const auto& read : again) {
        catalogue::Catalogue with = all.parts;
        if (auto ok = add_all(read, true, with); ok)
            all.parts = std::move(with);
        else
            skip(ok.error());
    }
    return all;
}

namespace {

/// The same of a table.
Result<std::vector<Read>> read_table(const std::filesystem::path& path) {
    const auto text = read_text(path);
    if (!text) return tl::unexpected(text.error());
    const std::string name = path_text(path.filename());
    auto types = read_parts_csv(*text, name);
    if (!types) return tl::unexpected(types.error());
    std::vector<Read> all;
    for (catalogue::PartType& type : *types) {
        std::string written = part_text(type);
        std::string where = name + ", " + type.id;
        all.push_back({name, std::move(type), std::move(written), std::move(where)});
    }
    return all;
}

} // namespace

Result<catalogue::Catalogue> with_file(const catalogue::Catalogue& parts,
                                       const std::filesystem::path& file,
                                       std::vector<std::string>& added) {
    auto read = file.extension() == ".csv" ? read_table(file) : read_one(file);
    if (!read) return tl::unexpected(read.error());
    added.clear();
    for (const Read& r : *read)
        added.push_back(r.part.id);
    catalogue::Catalogue with = parts;
    if (auto ok = add_all(std::move(*read), true, with); !ok) return tl::unexpected(ok.error());
    return with;
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
