// SPDX-License-Identifier: GPL-3.0-or-later
// What tables of lights have alike: which lights there are, and columns over colour and cap.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "app/table/column.h"
#include "core/base/message_format.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"
#include "core/job/words.h"

namespace conductus::app {

/// Every light of a job that can show something by itself: blades where there are several, strips,
/// strings, accents, lit connectors, LEDs, stretches. `stretches`: these too.
std::vector<std::string> lights_of(const job::Job& job, const catalogue::Catalogue& parts,
                                   bool stretches = true);

/// The word of an enumeration that begins with what was typed. Error: none does.
template <class E>
Result<E> word_typed(const std::string& typed) {
    std::vector<std::string_view> all;
    for (const auto& [value, word] : job::Words<E>::table) {
        if (!typed.empty() && word.starts_with(typed)) return value;
        all.push_back(word);
    }
    return problem("", say("'{}' is not known here", shown(typed, 60)),
                   say("Write one of: {}", conductus::joined(all, ", ")));
}

/// A share typed in %, with or without the sign. Error: no number from 0 to 100.
Result<double> share_typed(const std::string& typed);
QString share_text(double share);

/// Columns over a light's red, green, blue, white and cap, in %: as they are told of a row, and
/// written back with one of them changed.
template <class Light>
std::vector<Column> share_columns(const std::function<Light(int row)>& light,
                                  const std::function<job::Edit(Light)>& write) {
    struct Share {
        QString title;
        double& (*of)(Light&);
    };
    const Share shares[] = {
        {QObject::tr("red"), [](Light& l) -> double& { return l.colour.red; }},
        {QObject::tr("green"), [](Light& l) -> double& { return l.colour.green; }},
        {QObject::tr("blue"), [](Light& l) -> double& { return l.colour.blue; }},
        {QObject::tr("white"), [](Light& l) -> double& { return l.colour.white; }},
        {QObject::tr("cap"), [](Light& l) -> double& { return l.cap; }}};
    std::vector<Column> all;
    for (const Share& s : shares) {
        Column c = figures(s.title, [light, of = s.of](int row) {
            Light l = light(row);
            return CellText(share_text(of(l)));
        });
        c.edit = [light, write, of = s.of](int row, const std::string& typed) -> job::Edit {
            Light l = light(row);
            const auto share = share_typed(typed);
            if (!share) return job::refused(share.error());
            of(l) = *share;
            return write(l);
        };
        all.push_back(std::move(c));
    }
    return all;
}

} // namespace conductus::app
