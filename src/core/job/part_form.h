// SPDX-License-Identifier: GPL-3.0-or-later
// A part of the catalogue as a form: every figure of its kind with its words, its unit and what it
// may be, written as a person types it. A place is that of the catalogue's files:
// "/board/pad_rating_A".
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/base/message.h"
#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"

namespace conductus::job {

/// One value of a part type.
struct FormField {
    std::string at;     ///< "/led/dies/1/forward_V"
    std::string group;  ///< what it is a value of: "body", "die 2"; empty: the part itself
    std::string name;   ///< "forward voltage"
    std::string unit;   ///< that it is shown in, and typed in where none is typed: "mA"
    std::string typed;  ///< what stands there, to the last digit
    std::string may_be; ///< "more than 0", "1 to 8"; empty: words, or any text
    std::vector<std::string> choices; ///< words, or ids of the catalogue; empty: it is typed
    bool usual = false;               ///< nothing typed is its usual value
};

/// A list of the part: terminals, dies, channels, pieces of the body.
struct FormList {
    std::string at;   ///< "/led/dies"
    std::string name; ///< of one more: "die"
    std::size_t count = 0;
};

struct Form {
    std::vector<FormField> fields; ///< in the order of the files
    std::vector<FormList> lists;
    [[nodiscard]] const FormField* find(std::string_view at) const; ///< null: there is none
};

/// The form of a part; `parts` gives the choices of what names another part.
Form form_of(const catalogue::PartType& type, const catalogue::Catalogue& parts);

/// What stands there in the unit of the place itself, to the last digit; empty: there is nothing.
std::string exact_at(const catalogue::PartType& type, std::string_view at);

/// The part with that typed: a number with its unit in any prefix or without it, a length also in
/// inches, the beginning of a word. Refused: what can not be read, is out of range, or makes no
/// part of it. `unit`: what is meant where none is typed; empty: that of the place. A word that
/// decides which fields there are (a shape, a method) gives new ones their usual values.
Result<catalogue::PartType> with_typed(const catalogue::PartType& type, std::string_view at,
                                       const std::string& typed, std::string_view unit = {});

/// The part with one more element at the end of a list: as the last, or the usual one. Refused:
/// there may be no more.
Result<catalogue::PartType> with_one_more(const catalogue::PartType& type, std::string_view list);

/// The part without an element: "/led/dies/1". Refused: it is the last that it takes.
Result<catalogue::PartType> without(const catalogue::PartType& type, std::string_view element);

/// Whether a catalogue file may say so: every value in its range, everything there that it takes.
/// The place of the problem is that of the value.
Result<void> check_type(const catalogue::PartType& type);

/// What differs between two forms of one part, in words: "pad rating: 6 A, was 4 A".
std::vector<Message> differences(const catalogue::PartType& was, const catalogue::PartType& now);

/// What a terminal of it is for, in words: "supply, return"; empty: nothing that is known.
std::string purpose_of(const catalogue::PartType& type, std::string_view terminal);

} // namespace conductus::job
