// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/template_text.h"

#include <algorithm>
#include <ctemplate/template.h>
#include <fmt/format.h>
#include <set>
#include <vector>

#include "core/base/nearest.h"

namespace conductus::files {
namespace {

std::string capitals(std::string key) {
    std::transform(key.begin(), key.end(), key.begin(),
                   [](unsigned char c) { return static_cast<char>(std::toupper(c)); });
    return key;
}

std::string value_text(const Json& value) {
    if (value.is_string()) return value.get<std::string>();
    if (value.is_null()) return {};
    return value.dump();
}

/// Names of values and of lists, wherever they are.
struct Names {
    std::set<std::string> values{"INDEX", "COUNT"}, lists;

    void add(const Json& data) {
        for (const auto& [key, value] : data.items()) {
            const std::string name = capitals(key);
            if (value.is_array()) {
                lists.insert(name);
                for (const Json& entry : value)
                    if (entry.is_object())
                        add(entry);
                    else
                        values.insert("VALUE");
            } else if (value.is_object()) {
                lists.insert(name);
                add(value);
            } else {
                values.insert(name);
            }
        }
    }
};

void fill(ctemplate::TemplateDictionary& dictionary, const Json& data) {
    for (const auto& [key, value] : data.items()) {
        const std::string name = capitals(key);
        if (value.is_object()) {
            fill(*dictionary.AddSectionDictionary(name), value);
        } else if (value.is_array()) {
            std::size_t index = 0;
            for (const Json& entry : value) {
                auto* one = dictionary.AddSectionDictionary(name);
                one->SetValue("INDEX", std::to_string(++index));
                one->SetValue("COUNT", std::to_string(value.size()));
                if (entry.is_object())
                    fill(*one, entry);
                else
                    one->SetValue("VALUE", value_text(entry));
            }
        } else {
            dictionary.SetValue(name, value_text(value));
        }
    }
}

/// Whether the markers are such as can be filled; the first that is not is told.
Result<void> check_markers(std::string_view text, const std::string& file, const Names& names) {
    std::vector<std::pair<std::string, std::size_t>> open;
    std::size_t line = 1, from = 0;
    const auto at = [&](std::size_t l) { return fmt::format("{} line {}", file, l); };
    for (std::size_t start = text.find("{{"); start != std::string_view::npos;
         start = text.find("{{", from)) {
        line += static_cast<std::size_t>(
            std::count(text.begin() + static_cast<std::ptrdiff_t>(from),
                       text.begin() + static_cast<std::ptrdiff_t>(start), '\n'));
        const std::size_t end = text.find("}}", start);
        if (end == std::string_view::npos)
            return problem(at(line), "the marker is not closed", "End it with }}");
        std::string name(text.substr(start + 2, end - start - 2));
        from = end;
        const char kind = name.empty() ? ' ' : name.front();
        if (kind == '!') continue; // a remark
        if (kind == '>' || kind == '=' || kind == '%')
            return problem(at(line), say("'{}' is not for these templates", shown(name, 40)),
                           "Use {{NAME}} and {{#LIST}} … {{/LIST}}");
        const bool list = kind == '#' || kind == '/';
        if (list) name.erase(0, 1);
        if (const auto colon = name.find(':'); colon != std::string::npos) name.resize(colon);
        const auto& known = list ? names.lists : names.values;
        std::string bare = name;
        if (list && bare.ends_with("_separator")) bare.resize(bare.size() - 10);
        if (!known.contains(bare)) {
            std::vector<std::string> all(known.begin(), known.end());
            const std::string near = nearest_word(bare, all);
            return problem(at(line),
                           list ? say("there is no list '{}'", shown(name, 40))
                                : say("there is no value '{}'", shown(name, 40)),
                           near.empty() ? say("There are: {}", joined(all, ", "))
                                        : say("Did you mean '{}'?", near));
        }
        if (kind == '#') {
            open.emplace_back(name, line);
        } else if (kind == '/') {
            if (open.empty() || open.back().first != name)
                return problem(at(line),
                               open.empty() ? say("the list '{}' was not opened", name)
                                            : say("'{}' closes, but '{}' of line {} is open", name,
                                                  open.back().first, open.back().second),
                               "Close each list where it was opened");
            open.pop_back();
        }
    }
    if (!open.empty())
        return problem(at(open.back().second),
                       say("the list '{}' is not closed", open.back().first),
                       say("End it with {{/{}", open.back().first));
    return {};
}

} // namespace

Result<std::string> filled_template(std::string_view text, const std::string& name,
                                    const Json& data) {
    Names names;
    names.add(data);
    if (auto ok = check_markers(text, name, names); !ok) return tl::unexpected(ok.error());
    const std::unique_ptr<ctemplate::Template> made(
        ctemplate::Template::StringToTemplate(text.data(), text.size(), ctemplate::DO_NOT_STRIP));
    if (!made) return problem(name, "it is no template", "Use {{NAME}} and {{#LIST}} … {{/LIST}}");
    ctemplate::TemplateDictionary dictionary("configuration");
    fill(dictionary, data);
    std::string out;
    if (!made->Expand(&out, &dictionary))
        return problem(name, "the template can not be filled", "Check its markers");
    return out;
}

} // namespace conductus::files
