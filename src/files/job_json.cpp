// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/job_json.h"

#include "core/job/validate.h"
#include "files/job_fields.h"
#include "files/json_visitors.h"

namespace conductus::files {
namespace {

constexpr const char* format_name = "conductus-job";

/// The two keys around the job itself.
Result<void> check_head(const Json& json, const std::string& name) {
    if (!json.is_object())
        return problem(name + " /", std::string("this is ") + kind_of(json) + ", not a job",
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
        return problem(
            name + " /version",
            fmt::format("this job was written by a newer Conductus (format {}); this one "
                        "reads up to {}",
                        version->dump(), job_format_version),
            "Update Conductus to open it; the file is left as it is");
    return {};
}

} // namespace

Result<job::Job> parse_job(std::string_view text, const catalogue::Catalogue& parts,
                           const std::string& name) {
    auto json = parse_json(text, name);
    if (!json) return tl::unexpected(json.error());
    if (auto ok = check_head(*json, name); !ok) return tl::unexpected(ok.error());
    json->erase("format");
    json->erase("version");
    ReadContext context{name, {}};
    JsonReader reader(*json, "", context);
    job::Job job;
    describe(reader, job);
    reader.finish();
    if (context.first) return tl::unexpected(*context.first);
    if (auto ok = job::validate(job, parts); !ok) {
        Problem p = ok.error();
        p.where = name + " " + p.where;
        return tl::unexpected(p);
    }
    return job;
}

Result<job::Job> read_job(const std::filesystem::path& path, const catalogue::Catalogue& parts) {
    const auto text = read_text(path);
    if (!text) return tl::unexpected(text.error());
    return parse_job(*text, parts, path.filename().string());
}

std::string job_text(const job::Job& job) {
    JsonWriter writer;
    writer.json["format"] = format_name;
    writer.json["version"] = job_format_version;
    describe(writer, job);
    return writer.json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

Json job_schema() {
    SchemaWriter writer;
    writer.constant("format", format_name);
    writer.constant("version", job_format_version);
    const job::Job job;
    describe(writer, job);
    Json schema{{"$schema", "https://json-schema.org/draft/2020-12/schema"},
                {"title", "Conductus job, format 1"}};
    schema.update(writer.schema());
    return schema;
}

} // namespace conductus::files
