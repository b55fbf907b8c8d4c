// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/habits_json.h"

#include "files/json_text.h"
#include "files/json_visitors.h"

namespace conductus::files {

std::string habits_text(const job::Habits& habits) {
    JsonWriter writer;
    describe(writer, habits);
    return json_text(writer.json) + "\n";
}

Result<job::Habits> parse_habits(const std::string& text) {
    const auto json = parse_json(text, "habits");
    if (!json) return tl::unexpected(json.error());
    if (!json->is_object())
        return problem("habits", say("this is {}, not an object", kind_of(*json)),
                       "Write it in { }");
    ReadContext context{"habits", {}};
    JsonReader reader(*json, context);
    job::Habits habits;
    describe(reader, habits);
    reader.finish();
    if (context.first) return tl::unexpected(*context.first);
    return habits;
}

} // namespace conductus::files
