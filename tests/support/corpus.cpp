// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/corpus.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <stdexcept>

#include "core/job/edits.h"
#include "core/job/words.h"
#include "files/job_json.h"
#include "support/fixtures.h"

namespace conductus::test {

using files::Json;

namespace {

std::filesystem::path folder() { return source_dir() / "tests" / "data" / "corpus"; }

Json read_json(const std::filesystem::path& path) { return Json::parse(read_file(path)); }

Json& job_of(Json& document) { return document.contains("job") ? document["job"] : document; }

std::size_t index_in(const Json& list, const std::string& segment) {
    for (std::size_t i = 0; i < list.size(); ++i)
        for (const char* key : {"ref", "name", "text", "pad", "item"})
            if (list[i].is_object() && list[i].value(key, Json()) == segment) return i;
    return std::stoul(segment);
}

Json& child(Json& node, const std::string& segment) {
    return node.is_array() ? node.at(index_in(node, segment)) : node[segment];
}

/// The node a path leads to, but for its last segment.
Json& parent(Json& document, const std::string& path, std::string& last) {
    Json* node = &job_of(document);
    std::size_t at = 0;
    for (auto slash = path.find('/'); slash != std::string::npos; slash = path.find('/', at)) {
        node = &child(*node, path.substr(at, slash - at));
        at = slash + 1;
    }
    last = path.substr(at);
    return *node;
}

job::Job read_case(const Json& document, const std::string& name) {
    auto job = files::read_job(document, parts(), name);
    if (!job) throw std::runtime_error(name + ": " + job.error().text());
    return *job;
}

std::map<std::string, Json>& documents() {
    static std::map<std::string, Json> all;
    if (all.empty())
        for (const auto& entry : std::filesystem::directory_iterator(folder() / "bases"))
            all[entry.path().stem().string()] = read_json(entry.path());
    return all;
}

job::Job begun(const Json& start) {
    plan::Start s;
    s.length = Millimetre(start.at("length_mm").get<double>());
    s.bore = Millimetre(start.at("bore_mm").get<double>());
    s.blade = Millimetre(start.at("blade_mm").get<double>());
    s.occasion = job::from_word<job::Occasion>(start.at("occasion").get<std::string>());
    if (start.contains("buttons")) s.buttons = start["buttons"].get<int>();
    if (start.contains("strips")) s.strips = start["strips"].get<int>();
    job::Job job = job::blank("Begun", job::Kind::conversion);
    if (auto ok = plan::begin_job(s, parts())(job); !ok)
        throw std::runtime_error(ok.error().text());
    return job;
}

std::vector<Case> read_cases(const char* file) {
    std::vector<Case> all;
    for (const Json& entry : read_json(folder() / file)) {
        Case c;
        c.name = entry.at("name").get<std::string>();
        if (entry.contains("start")) {
            c.name += " " + entry["start"].dump();
            c.job = begun(entry["start"]);
            all.push_back(std::move(c));
            continue;
        }
        c.base = entry.at("base").get<std::string>();
        c.name += ", " + c.base;
        if (entry.contains("id")) {
            if (entry["id"].is_array())
                c.ids = entry["id"].get<std::vector<std::string>>();
            else
                c.ids = {entry["id"].get<std::string>()};
            if (entry["severity"].is_string()) c.severity = entry["severity"].get<std::string>();
        }
        Json document = documents().at(c.base);
        apply_patch(document, entry.at("patch"));
        c.job = read_case(document, c.name);
        all.push_back(std::move(c));
    }
    return all;
}

} // namespace

void apply_patch(Json& document, const Json& patch) {
    for (const Json& operation : patch) {
        const auto what = operation.at(0).get<std::string>();
        const auto path = operation.at(1).get<std::string>();
        std::string last;
        if (what == "set") {
            Json& node = parent(document, path, last);
            child(node, last) = operation.at(2);
        } else if (what == "remove") {
            Json& node = parent(document, path, last);
            if (node.is_array())
                node.erase(index_in(node, last));
            else
                node.erase(last);
        } else if (what == "add") {
            Json& node = parent(document, path, last);
            child(node, last).push_back(operation.at(2));
        } else if (what == "swap") {
            const auto other = operation.at(2).get<std::string>();
            for (Json& wire : job_of(document).at("wires"))
                for (const char* end : {"from", "to"}) {
                    if (wire[end] == path)
                        wire[end] = other;
                    else if (wire[end] == other)
                        wire[end] = path;
                }
        } else {
            throw std::runtime_error("no such operation: " + what);
        }
    }
}

std::vector<Case> planted_mistakes() { return read_cases("mistakes.json"); }
std::vector<Case> sound_builds() { return read_cases("sound.json"); }

std::vector<std::pair<std::string, job::Job>> base_jobs() {
    std::vector<std::pair<std::string, job::Job>> all;
    for (const auto& [name, document] : documents())
        all.emplace_back(name, read_case(document, name));
    return all;
}

} // namespace conductus::test
