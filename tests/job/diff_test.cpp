// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/diff.h"

#include <algorithm>
#include <set>

#include "core/job/lookup.h"
#include "files/job_json.h"
#include "support/fixtures.h"

namespace conductus {
namespace {

using namespace test;
using files::Json;
using job::Change;

std::set<std::string> paths(const std::vector<Change>& changes) {
    std::set<std::string> all;
    for (const Change& c : changes)
        all.insert(c.path);
    return all;
}

/// What an element of a list is called, found here without the tree.
std::string called(const std::string& list, const Json& e) {
    if (e.contains("ref")) return e["ref"];
    if (list == "blades") return "";
    if (list == "sections" || list == "looks" || list == "effects" || list == "settings" ||
        list == "joints" || list == "fasteners" || list == "openings" || list == "variants" ||
        list == "stretches" || list == "uses" || list == "presets" || list == "tracks" ||
        list == "states" || list == "presets_found" || list == "presets_asked")
        return e["name"];
    if (list == "commands")
        return e["state"].get<std::string>() + " · " + e["name"].get<std::string>();
    if (list == "buttons") return e["button"];
    if (list == "left_out") return e["effect"];
    if (list == "rates") return e["kind"];
    if (list == "wishes" || list == "agreements") return e["text"];
    if (list == "inspection") return e["item"];
    if (list == "lines") return e["pad"];
    if (list == "lights") return e["light"];
    if (list == "pictures") return e["id"];
    if (list == "log") return e["on"];
    if (list == "resting") {
        const std::string preset = e.value("preset", "");
        return e["when"].get<std::string>() + (preset.empty() ? "" : " " + preset);
    }
    if (list == "wires") return e["from"].get<std::string>() + "–" + e["to"].get<std::string>();
    if (list == "milestones")
        return e["mark"].get<std::string>() + " " + e["on"].get<std::string>();
    return "";
}

struct Leaf {
    Json* value;
    std::string key, path;
};

/// All values of a document with the paths the words go by.
void leaves(Json& at, const std::string& key, const std::string& path, std::vector<Leaf>& out) {
    if (at.is_object()) {
        for (auto& [k, v] : at.items())
            leaves(v, k, path + "/" + k, out);
    } else if (at.is_array()) {
        std::map<std::string, int> seen;
        for (Json& e : at) {
            std::string name = called(key, e);
            const int n = ++seen[name];
            if (n > 1 || name.empty()) name += "#" + std::to_string(n);
            std::string safe;
            for (const char c : name)
                safe += c == '~' ? "~0" : c == '/' ? "~1" : std::string(1, c);
            leaves(e, "", path + "/" + safe, out);
        }
    } else {
        out.push_back({&at, key, path});
    }
}

/// Changes a value to another that is still right; false where it better stays.
bool mutate(const Leaf& leaf, std::mt19937& random) {
    static const std::set<std::string> names{
        "light",  "state",      "button", "pad",     "of",      "first",     "last",
        "ref",    "name",       "look",   "from",    "to",      "connector", "type",
        "format", "protection", "id",     "item",    "text",    "mark",      "on",
        "part",   "from_mm",    "to_mm",  "version", "carrier", "adapter",   "charger"};
    if (names.contains(leaf.key)) return false;
    Json& v = *leaf.value;
    if (v.is_boolean()) return v = !v.get<bool>(), true;
    if (v.is_number_integer() &&
        (leaf.key == "pixels" || leaf.key == "gauge_awg" || leaf.key == "times"))
        return v = v.get<int>() + 1, true;
    if (v.is_number()) {
        // So little that three figures do not show it.
        const double was = v.get<double>();
        const double by = std::uniform_real_distribution<>(1e-5, 0.02)(random);
        return v = was == 0 ? by : was * (1 - by), true;
    }
    static const std::map<std::string, std::vector<std::string>> words{
        {"kind", {"conversion", "repair", "upgrade"}},
        {"stage", {"brief", "survey", "agreed"}},
        {"opens", {"pommel", "emitter"}},
        {"chassis", {"fixed", "removable", "slide-out"}},
        {"top", {"flat", "button"}},
        {"style", {"steady", "pulse", "fire"}},
        {"role", {"supply", "data", "sound"}},
        {"swap", {"acceptable", "not acceptable"}},
        {"occasion", {"stage", "bout"}},
        {"by", {"look", "part"}},
        {"bound", {"at least", "at most"}},
        {"area", {"sound", "lights"}},
        {"condition", {"fine", "worn"}},
        {"unit", {"V", "A"}},
        {"fate", {"kept", "replaced"}},
        {"hand", {"right", "left"}},
        {"use", {"port", "vent"}},
        {"loosen", {"never", "may be loosened"}},
        {"state", {"fine", "seized"}},
        {"material", {"brass", "steel"}},
        {"goes_in", {"both", "pommel"}},
        {"kind of joint", {"thread", "glued"}},
        {"kind of effect", {"drag", "melt"}},
        {"kind of carrier", {"fixed", "cell bay"}}};
    // What an element of a list is called by.
    if (leaf.key == "wire" || leaf.key == "pin" ||
        leaf.path.find("/config/pads/") != std::string::npos)
        return false;
    std::string key = leaf.key;
    if (key == "kind" && leaf.path.starts_with("/hilt/joints/")) key += " of joint";
    if (key == "kind" && leaf.path.starts_with("/hilt/carriers/")) key += " of carrier";
    if (key == "kind" && leaf.path.find("/effects/") != std::string::npos) key += " of effect";
    if (const auto it = words.find(key); it != words.end()) {
        for (const std::string& word : it->second)
            if (v != word) return v = word, true;
        return false;
    }
    if (leaf.key == "kind" || leaf.key == "mark") return false;
    return v = v.get<std::string>() + "!", true;
}

TEST(Diff, NamesEveryChangedFieldAndNothingElse) {
    std::mt19937 random(11);
    int compared = 0, changed = 0;
    for (int round = 0; round < rounds(400); ++round) {
        const job::Job before = random_job(random);
        Json json = Json::parse(files::job_text(before));
        std::vector<Leaf> all;
        leaves(json, "", "", all);
        std::shuffle(all.begin(), all.end(), random);
        std::set<std::string> expected;
        const auto wanted = std::uniform_int_distribution<std::size_t>(0, 6)(random);
        for (const Leaf& leaf : all) {
            if (expected.size() == wanted) break;
            // Agreements have kinds of their own.
            if (leaf.key == "kind" && leaf.path != "/kind") continue;
            if (mutate(leaf, random)) expected.insert(leaf.path);
        }
        const auto after = files::parse_job(json.dump(), parts(), "changed");
        if (!after) continue; // not a right job any more: nothing to compare
        ++compared;
        const auto found = job::changes(before, *after, parts());
        ASSERT_EQ(paths(found), expected) << "round " << round;
        ASSERT_EQ(found.size(), expected.size()) << "each is named once";
        for (const Change& c : found) {
            ++changed;
            EXPECT_EQ(c.kind, Change::Kind::changed);
            EXPECT_NE(c.before, c.after) << c.text;
            EXPECT_NE(c.text.english().find("→"), std::string::npos) << c.text;
            // The sentence itself tells the two apart.
            const auto arrow = c.text.english().find("→");
            const auto colon = c.text.english().rfind(": ", arrow);
            ASSERT_NE(colon, std::string::npos) << c.text;
            EXPECT_NE(c.text.english().substr(colon + 2, arrow - colon - 3),
                      c.text.english().substr(arrow + 4))
                << c.text;
        }
    }
    EXPECT_GT(compared, rounds(300));
    EXPECT_GT(changed, rounds(700));
}

TEST(Diff, EqualJobsHaveNone) {
    std::mt19937 random(3);
    for (int i = 0; i < rounds(50); ++i) {
        const job::Job job = random_job(random);
        EXPECT_TRUE(job::changes(job, job, parts()).empty());
    }
}

std::vector<std::string> texts(const job::Job& a, const job::Job& b) {
    std::vector<std::string> all;
    for (const Change& c : job::changes(a, b, parts()))
        all.push_back(c.text.english());
    return all;
}

using Words = std::vector<std::string>;

TEST(Diff, SpeaksTheCraft) {
    const job::Job a = demo("heron");
    job::Job b = a;
    job::find_ref(b.parts, "B1")->type = "cell.18350";
    EXPECT_EQ(texts(a, b), Words{"cell B1: 18650 power cell, 3000 mAh → 18350 cell, 1100 mAh"});
    b = a;
    b.use.clean = Minute(88);
    EXPECT_EQ(texts(a, b), Words{"use, clean runtime wanted: 60 → 88\u202fmin"});
    b = a;
    b.hilt.sections[1].bore = Millimetre(28.41);
    EXPECT_EQ(texts(a, b), Words{"hilt, section grip, bore: 28.4 → 28.41\u202fmm"})
        << "what three figures do not show";
    b = a;
    job::find_ref(b.parts, "B1")->protection.reset();
    EXPECT_EQ(texts(a, b), Words{"cell B1, protection: protection board, trips at 8 A → nothing"});
}

TEST(Diff, AddedRemovedRenamedMoved) {
    const job::Job a = demo("heron");
    job::Job b = a;
    b.looks.erase(b.looks.begin());
    b.use.look = b.looks.front().name;
    auto found = job::changes(a, b, parts());
    EXPECT_EQ(paths(found), (std::set<std::string>{"/looks/Tidewater", "/use/look"}));
    found = job::changes(b, a, parts());
    ASSERT_EQ(found.size(), 2u);
    const auto added = std::find_if(found.begin(), found.end(),
                                    [](auto& c) { return c.kind == Change::Kind::added; });
    ASSERT_NE(added, found.end());
    for (const char* says : {"look Tidewater added", "green 0.75", "style steady", "cap 0.85"})
        EXPECT_NE(added->text.english().find(says), std::string::npos) << added->text;

    b = a;
    b.looks[1].name = "Oil lamp";
    EXPECT_EQ(texts(a, b), Words{"look Lamplight, name: Lamplight → Oil lamp"}) << "one change";

    b = a;
    std::swap(b.looks[0], b.looks[2]);
    found = job::changes(a, b, parts());
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].kind, Change::Kind::moved);
    EXPECT_EQ(found[0].path, "/looks");
    EXPECT_EQ(found[0].text.english().find("order of the looks: look Signal red"), 0u)
        << found[0].text;

    b = a;
    b.log.push_back({"2027-01-01", "The ferry bell is loose."});
    EXPECT_EQ(texts(a, b), Words{"note of 2027-01-01 added: text The ferry bell is loose."});
}

TEST(Diff, LongTextsShowWhereTheyDiffer) {
    job::Job a = demo("heron"), b = a;
    a.notes = std::string(300, 'a') + " the tide is in";
    b.notes = std::string(300, 'a') + " the tide is out";
    const auto text = texts(a, b).at(0);
    EXPECT_NE(text.find("tide is in”"), std::string::npos) << text;
    EXPECT_NE(text.find("tide is out”"), std::string::npos) << text;
    EXPECT_LT(text.size(), 250u);
}

} // namespace
} // namespace conductus
