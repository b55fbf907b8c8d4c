// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/job_json.h"

#include <algorithm>
#include <map>

#include "core/job/fields.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "files/catalogue_json.h"
#include "files/json_visitors.h"
#include "files/own_parts.h"

namespace conductus::files {
namespace {

constexpr const char* format_name = "conductus-job";

/// The two keys around the job itself.
Result<void> check_head(const Json& json, const std::string& name) {
    if (!json.is_object())
        return problem(name + " /", say("this is {}, not a job", kind_of(json)),
                       "Open a file that Conductus exported");
    const auto format = json.find("format");
    if (format == json.end() || !format->is_string() || *format != format_name)
        return problem(name + " /format", "this is not a Conductus job",
                       "A job starts with \"format\": \"conductus-job\"");
    const auto version = json.find("version");
    if (version == json.end() || !version->is_number_integer() || *version < 1)
        return problem(name + " /version", "the format version is missing or not a whole number",
                       "Write \"version\": 1");
    if (*version > job_format_version)
        return problem(name + " /version",
                       say("this job was written by a newer Conductus (format {}); this one "
                           "reads up to {}",
                           version->dump(), job_format_version),
                       "Update Conductus to open it; the file is left as it is");
    return {};
}

Result<job::Job> judged(Result<job::Job> job, const catalogue::Catalogue& parts,
                        const std::string& name) {
    if (!job) return job;
    if (auto ok = job::validate(*job, parts); !ok) {
        Problem p = ok.error();
        p.where = name + " " + p.where;
        return tl::unexpected(p);
    }
    return job;
}

/// "data:image/png;base64,…" as a picture with the id it is filed under.
Result<Attachment> picture_of(const std::string& id, const Json& value, const std::string& where) {
    constexpr std::string_view mark = ";base64,";
    if (!value.is_string())
        return problem(where, say("this is {}, not a picture", kind_of(value)),
                       "Write it as data:image/png;base64,…");
    const auto& text = value.get_ref<const std::string&>();
    const auto at = text.find(mark);
    const auto bytes = at == std::string::npos
                           ? std::nullopt
                           : from_base64(std::string_view(text).substr(at + mark.size()));
    if (!bytes) return problem(where, "the picture is not readable", "Export the job again");
    const auto type = picture_type(*bytes);
    if (!type)
        return problem(where, "this is neither a PNG nor a JPEG picture", "Save it as one of them");
    if (bytes->size() > job::limits::picture_bytes)
        return problem(where, say("the picture has {} kB", bytes->size() >> 10),
                       say("Keep it under {} kB", job::limits::picture_bytes >> 10));
    if (content_id(*bytes) != id)
        return problem(where, "the picture is not the one this name stands for: it is damaged",
                       "Export the job again");
    return Attachment{*type, *bytes};
}

/// The entries of an optional object of the document.
template <class Take>
Result<void> each_entry(const Json& json, const char* key, const std::string& name, Take take) {
    const auto found = json.find(key);
    if (found == json.end()) return {};
    const std::string where = fmt::format("{} /{}", name, key);
    if (!found->is_object())
        return problem(where, say("this is {}, not an object", kind_of(*found)), "Write it in { }");
    for (const auto& [id, value] : found->items())
        if (auto ok = take(id, value, where + "/" + shown(id, 60)); !ok) return ok;
    return {};
}

/// Every picture the job shows is among the attachments.
Result<void> check_pictures(const job::Job& job, const Attachments& attachments,
                            const std::string& name) {
    for (const std::string& id : pictures_of(job))
        if (!attachments.contains(id))
            return problem(name + " /pictures", say("the picture '{}' is not in the file", id),
                           "Export the job with its pictures, or take the picture out");
    return {};
}

} // namespace

Result<job::Job> read_document(const Json& document, const std::string& name) {
    if (auto ok = check_head(document, name); !ok) return tl::unexpected(ok.error());
    ReadContext context{name, {}};
    JsonReader reader(document, context);
    reader.leave_out({"format", "version", "kept", "pictures", "own_parts"});
    job::Job job;
    describe(reader, job);
    reader.finish();
    if (context.first) return tl::unexpected(*context.first);
    return job;
}

Result<job::Job> read_job(const Json& document, const catalogue::Catalogue& parts,
                          const std::string& name) {
    return judged(read_document(document, name), parts, name);
}

Result<job::Job> read_stored(const Json& document, const catalogue::Catalogue& parts,
                             const std::string& name) {
    auto job = read_document(document, name);
    if (job)
        std::erase_if(job->soldered,
                      [&](auto& tick) { return !job::find_ref(job->wires, tick.wire); });
    return judged(std::move(job), parts, name);
}

Result<job::Job> parse_stored(std::string_view text, const catalogue::Catalogue& parts,
                              const std::string& name) {
    auto json = parse_json(text, name);
    if (!json) return tl::unexpected(json.error());
    return read_stored(*json, parts, name);
}

Result<job::Job> parse_job(std::string_view text, const catalogue::Catalogue& parts,
                           const std::string& name) {
    auto json = parse_json(text, name);
    if (!json) return tl::unexpected(json.error());
    return read_job(*json, parts, name);
}

Result<job::Job> read_job(const std::filesystem::path& path, const catalogue::Catalogue& parts) {
    auto file = read_job_to_plan(path, parts);
    if (!file) return tl::unexpected(file.error());
    return std::move(file->job);
}

namespace {

/// Whether the survey holds what format 2 can not say.
bool full_survey(const job::Job& job) {
    job::Job plain = job;
    job::Hilt& hilt = plain.hilt;
    hilt.material = {};
    hilt.joints.clear();
    hilt.openings.clear();
    hilt.fasteners.clear();
    hilt.socket = {};
    hilt.carriers.clear();
    for (job::BoreSection& s : hilt.sections)
        s.bore_end.reset(), s.outer_end.reset();
    for (job::Part& p : plain.parts)
        p.side = {}, p.turn = {}, p.carrier.clear();
    return plain.hilt != job.hilt || plain.parts != job.parts || hilt.opens > job::End::emitter;
}

/// Whether the lights hold what format 3 can not say.
bool full_lights(const job::Job& job) {
    auto plain = [](const auto& j) {
        for (const job::Part& p : j.parts)
            if (p.chosen != job::Chosen{}) return false;
        for (const job::Blade& blade : j.blades) {
            if (!blade.strings.empty()) return false;
            for (const job::Strip& strip : blade.strips)
                if (!strip.feeds.empty()) return false;
        }
        for (const job::Look& look : j.looks)
            if (!look.lights.empty()) return false;
        for (const job::Effect& effect : j.effects)
            if (effect.kind != job::EffectKind::flash) return false;
        return j.lines.empty() && j.stretches.empty();
    };
    return !plain(job) || !job.variant.empty() || !job.variants.empty();
}

/// Whether its power holds what format 4 can not say.
bool full_power(const job::Job& job) {
    auto adapted = [](const auto& build) {
        return std::any_of(build.parts.begin(), build.parts.end(),
                           [](const job::Part& p) { return p.adapter.has_value(); });
    };
    return !job.use.day.empty() || !job.uses.empty() || !job.charger.empty() || adapted(job) ||
           std::any_of(job.variants.begin(), job.variants.end(), adapted);
}

/// Whether its harness holds what format 5 can not say.
bool full_harness(const job::Job& job) {
    auto more = [](const auto& build) {
        return std::any_of(build.parts.begin(), build.parts.end(),
                           [](const job::Part& p) {
                               return p.minus_faces != job::End::pommel || !p.measured.pins.empty();
                           }) ||
               std::any_of(build.wires.begin(), build.wires.end(), [](const job::Wire& w) {
                   return !w.length || !w.colour.empty() || w.turn || w.loop > Millimetre(0);
               });
    };
    return more(job) || job.config != job::Config{} || !job.soldered.empty() ||
           !job.built.empty() || std::any_of(job.variants.begin(), job.variants.end(), more);
}

/// Whether presets, states or blades hold what format 11 can not say.
bool full_states(const job::Job& job) {
    const auto two_colours = [](const auto& l) {
        return l.second != job::Colour{} || l.meets || l.style > job::Style::bands;
    };
    const auto more = [&](const auto& build) {
        return std::any_of(build.looks.begin(), build.looks.end(),
                           [&](const job::Look& l) {
                               return two_colours(l) ||
                                      std::any_of(l.lights.begin(), l.lights.end(), two_colours);
                           }) ||
               std::any_of(build.effects.begin(), build.effects.end(),
                           [](const job::Effect& e) { return !e.lights.empty(); }) ||
               std::any_of(build.blades.begin(), build.blades.end(),
                           [](const job::Blade& b) { return b.tube != job::Tube{}; }) ||
               !build.presets.empty() || !build.resting.empty() || !build.plugs.empty() ||
               build.config.blade_out != job::BladeOut::unsensed || !build.config.sense_pad.empty();
    };
    const auto side_sockets = [](const job::Hilt& hilt) {
        return !hilt.side_bores.empty() ||
               std::any_of(hilt.fasteners.begin(), hilt.fasteners.end(),
                           [](const job::Fastener& s) { return !s.socket.empty(); });
    };
    return more(job) || side_sockets(job.hilt) ||
           std::any_of(job.variants.begin(), job.variants.end(),
                       [&](const job::Variant& v) { return more(v) || v.hilt; }) ||
           std::any_of(job.brief.wishes.begin(), job.brief.wishes.end(),
                       [](const job::Wish& w) { return w.by == job::Proof::colour; });
}

} // namespace

Json job_json(const job::Job& job) {
    JsonWriter writer;
    writer.json["format"] = format_name;
    writer.json["version"] = 1;
    describe(writer, job);
    const bool papers = writer.json.contains("brief") || writer.json.contains("inspection") ||
                        writer.json.contains("as_found") || writer.json.contains("log") ||
                        writer.json.contains("milestones");
    if (papers) writer.json["version"] = 2;
    if (full_survey(job)) writer.json["version"] = 3;
    if (full_lights(job)) writer.json["version"] = 4;
    if (full_power(job)) writer.json["version"] = 5;
    if (full_harness(job)) writer.json["version"] = 6;
    const bool ticked = std::any_of(job.variants.begin(), job.variants.end(),
                                    [](const job::Variant& v) { return !v.soldered.empty(); });
    if (ticked) writer.json["version"] = 7;
    const auto noted = [](const auto& build) {
        return std::any_of(build.parts.begin(), build.parts.end(),
                           [](const job::Part& p) { return !p.note.empty(); });
    };
    if (!job.planned_with.empty() || noted(job) ||
        std::any_of(job.variants.begin(), job.variants.end(), noted))
        writer.json["version"] = 8;
    const auto angled = [](const auto& build) {
        return std::any_of(build.blades.begin(), build.blades.end(),
                           [](const job::Blade& b) { return b.stands_at || b.angle != Degree(0); });
    };
    if (angled(job) || std::any_of(job.variants.begin(), job.variants.end(), angled))
        writer.json["version"] = 9;
    const auto in_bays = [](const auto& build) {
        return std::any_of(build.parts.begin(), build.parts.end(), [](const job::Part& p) {
            return p.bay || p.bay_measured || p.chosen.sleep_after;
        });
    };
    if (in_bays(job) || std::any_of(job.variants.begin(), job.variants.end(), in_bays))
        writer.json["version"] = 10;
    const auto in_sets = [](const auto& build) {
        return std::any_of(build.blades.begin(), build.blades.end(), [](const job::Blade& b) {
            return !b.goes_into.empty() || b.form != job::BladeForm::blade ||
                   b.count != job::PixelCount::counted;
        });
    };
    if (!job.answered.empty() || !job.mated.empty() || in_sets(job) ||
        std::any_of(job.variants.begin(), job.variants.end(), in_sets))
        writer.json["version"] = 11;
    if (full_states(job)) writer.json["version"] = 12;
    if (job.handling != job::Handling{}) writer.json["version"] = 13;
    const bool of_presets =
        !job.presets_found.empty() || !job.presets_asked.empty() ||
        std::any_of(job.presets.begin(), job.presets.end(), [](auto& p) { return !p.was.empty(); });
    if (of_presets || job.card != job::Card{} || !job.motion_tests.empty() ||
        job.config.motion != job::MotionSettings{} || !job.handling.rehearsed.empty())
        writer.json["version"] = 14;
    if (job.bench != job::Bench{}) writer.json["version"] = 15;
    return std::move(writer.json);
}

std::string job_text(const job::Job& job) { return json_text(job_json(job)) + "\n"; }

namespace {

/// What the file holds under an id must be what that id was made of.
Result<void> check_id(const std::string& id, const std::string& bytes, const std::string& where,
                      const char* what) {
    if (content_id(bytes) == id) return {};
    return problem(where, say("the {} is not what it was when it was kept", what),
                   "Export the job again, or take it out", Cause::damaged);
}

/// The job of a parsed file, judged with the own parts that the file brings; `with` is then the
/// catalogue that has them.
Result<JobFile> job_and_parts(const Json& json, const catalogue::Catalogue& parts,
                              const std::string& name, catalogue::Catalogue& with) {
    JobFile file;
    auto own = each_entry(
        json, "own_parts", name,
        [&](const std::string& id, const Json& value, const std::string& where) -> Result<void> {
            std::string written = json_text(value);
            if (auto ok = check_id(id, written, where, "part"); !ok) return ok;
            if (auto part = parse_part(written, where); !part) return tl::unexpected(part.error());
            file.attachments.emplace(id, Attachment{"part", std::move(written)});
            return {};
        });
    if (!own) return tl::unexpected(own.error());
    job::Job named;
    named.planned_with = planned_with_in(json);
    with = catalogue_for(named, parts, {file.attachments, {}});
    auto job = read_job(json, with, name);
    if (!job) return tl::unexpected(job.error());
    file.job = std::move(*job);
    return file;
}

} // namespace

Result<JobFile> read_job_to_plan(const std::filesystem::path& path,
                                 const catalogue::Catalogue& parts) {
    const auto text = read_text(path);
    if (!text) return tl::unexpected(text.error());
    const std::string name = path_text(path.filename());
    const auto json = parse_json(*text, name);
    if (!json) return tl::unexpected(json.error());
    catalogue::Catalogue with;
    if (!json->is_object())
        return read_job(*json, parts, name).map([](job::Job job) {
            return JobFile{std::move(job), {}};
        });
    return job_and_parts(*json, parts, name, with);
}

Result<JobFile> parse_job_file(std::string_view text, const catalogue::Catalogue& parts,
                               const std::string& name) {
    auto json = parse_json(text, name);
    if (!json) return tl::unexpected(json.error());
    if (!json->is_object()) return tl::unexpected(read_document(*json, name).error());
    catalogue::Catalogue known;
    auto read = job_and_parts(*json, parts, name, known);
    if (!read) return read;
    JobFile file = std::move(*read);

    auto pictures = each_entry(
        *json, "pictures", name,
        [&](const std::string& id, const Json& value, const std::string& where) -> Result<void> {
            auto picture = picture_of(id, value, where);
            if (!picture) return tl::unexpected(picture.error());
            file.attachments.emplace(id, std::move(*picture));
            return {};
        });
    if (!pictures) return tl::unexpected(pictures.error());
    if (auto ok = check_pictures(file.job, file.attachments, name); !ok)
        return tl::unexpected(ok.error());

    // Written by hand, a state may have a name instead of an id; it is filed under its id.
    std::map<std::string, std::string> filed;
    auto kept = each_entry(
        *json, "kept", name,
        [&](const std::string& id, const Json& value, const std::string& where) -> Result<void> {
            auto state = read_job(value, known, where);
            if (!state) return tl::unexpected(state.error());
            if (auto ok = check_pictures(*state, file.attachments, name); !ok) return ok;
            std::string document = json_text(value) + "\n";
            filed[id] = id;
            if (!is_content_id(id)) {
                document = kept_text(std::move(*state));
                filed[id] = content_id(document);
            } else if (auto ok = check_id(id, document, where, "state"); !ok) {
                return ok;
            }
            file.attachments.emplace(filed[id], Attachment{"job", std::move(document)});
            return {};
        });
    if (!kept) return tl::unexpected(kept.error());
    for (std::size_t i = 0; i < file.job.milestones.size(); ++i) {
        std::string& state = file.job.milestones[i].kept;
        const auto it = filed.find(state);
        if (it == filed.end())
            return problem(fmt::format("{} /milestones/{}/kept", name, i),
                           say("the state '{}' is not in the file", shown(state, 60)),
                           "Export the job with its milestones, or take the milestone out");
        state = it->second;
    }
    return file;
}

Result<JobFile> read_job_file(const std::filesystem::path& path,
                              const catalogue::Catalogue& parts) {
    const auto text = read_text(path);
    if (!text) return tl::unexpected(text.error());
    return parse_job_file(*text, parts, path_text(path.filename()));
}

Result<std::string> job_file_text(const JobFile& file, const catalogue::Catalogue& parts) {
    auto json = std::make_optional(job_json(file.job));
    std::vector<std::string> wanted = pictures_of(file.job);
    auto missing = [&](const std::string& id) {
        return problem(file.job.name, say("'{}' is named in the job, but is lost", id),
                       "Check the shop book: conductus-cli shop BOOK verify");
    };
    Json kept = Json::object(), pictures = Json::object(), own = Json::object();
    for (const auto& [id, attachment] : file.attachments)
        if (attachment.type == "part")
            if (auto part = parse_json(attachment.bytes, id)) own[id] = std::move(*part);
    for (const auto& [id, attachment] : own_parts_of(file.job, parts))
        if (!own.contains(id))
            if (auto part = parse_json(attachment.bytes, id)) own[id] = std::move(*part);
    for (const std::string& id : kept_of(file.job)) {
        const auto it = file.attachments.find(id);
        if (it == file.attachments.end()) return missing(id);
        auto document = parse_json(it->second.bytes, file.job.name);
        auto state = document ? read_document(*document, file.job.name)
                              : Result<job::Job>(tl::unexpected(document.error()));
        if (!state) return missing(id);
        kept[id] = std::move(*document);
        const auto more = pictures_of(*state);
        wanted.insert(wanted.end(), more.begin(), more.end());
    }
    std::sort(wanted.begin(), wanted.end());
    for (const std::string& id : wanted) {
        const auto it = file.attachments.find(id);
        if (it == file.attachments.end()) return missing(id);
        pictures[id] =
            fmt::format("data:{};base64,{}", it->second.type, to_base64(it->second.bytes));
    }
    if (!kept.empty()) (*json)["kept"] = std::move(kept);
    if (!pictures.empty()) (*json)["pictures"] = std::move(pictures);
    if (!own.empty()) (*json)["own_parts"] = std::move(own);
    std::string text = json_text(*json) + "\n";
    if (text.size() > largest_file)
        return problem(file.job.name,
                       say("with its pictures the job has {} MB, over the {} that one file "
                           "may have",
                           text.size() >> 20, largest_file >> 20),
                       "Export it without pictures, or the whole book as a folder");
    return text;
}

job::Job bare(job::Job job) {
    for (auto& item : job.inspection)
        item.pictures.clear();
    job.milestones.clear();
    return job;
}

std::string kept_text(job::Job job) {
    job.milestones.clear();
    return job_text(job);
}

Json job_schema() {
    SchemaWriter writer;
    writer.constant("format", format_name);
    writer.any_of("version", {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, job_format_version});
    const job::Job job;
    describe(writer, job);
    Json schema{{"$schema", "https://json-schema.org/draft/2020-12/schema"},
                {"title", fmt::format("Conductus job, formats 1 to {}", job_format_version)}};
    schema.update(writer.schema());
    // Beside the job's own keys: the states its milestones keep, its pictures, the shop's own
    // parts.
    schema["properties"]["kept"] = {{"type", "object"}, {"additionalProperties", {{"$ref", "#"}}}};
    schema["properties"]["pictures"] = {
        {"type", "object"},
        {"additionalProperties",
         {{"type", "string"}, {"pattern", "^data:image/(png|jpeg);base64,"}}}};
    schema["properties"]["own_parts"] = {{"type", "object"},
                                         {"additionalProperties", {{"type", "object"}}}};
    return schema;
}

} // namespace conductus::files
