// SPDX-License-Identifier: GPL-3.0-or-later
// Finding parts by words and figures.
#include <cmath>
#include <set>

#include "core/catalogue/deciding.h"
#include "core/catalogue/kinds.h"
#include "support/fixtures.h"

namespace conductus::catalogue {
namespace {

using namespace test;

std::set<std::string> found(const std::string& words) {
    std::set<std::string> ids;
    for (const std::string& id : parts().ids())
        if (is_asked_for(*parts().find(id), words)) ids.insert(id);
    return ids;
}

TEST(Deciding, EveryKindButAFewHasFiguresThatDecide) {
    for (const std::string& id : parts().ids()) {
        const PartType& type = *parts().find(id);
        if (std::holds_alternative<Adapter>(type.figures)) continue; // its sizes are in its name
        EXPECT_FALSE(deciding_figures(type).empty()) << id;
        for (const Deciding& figure : deciding_figures(type)) {
            EXPECT_TRUE(std::isfinite(figure.value)) << id;
            EXPECT_FALSE(figure.text().empty()) << id;
        }
    }
}

TEST(Deciding, AnEmptySearchFindsAllAndNonsenseNothing) {
    EXPECT_EQ(found("").size(), parts().ids().size());
    EXPECT_TRUE(found("zzzz").empty());
}

TEST(Deciding, AKindIsFoundByItsWord) {
    for (const auto& id : found("fuse"))
        EXPECT_TRUE(parts().find_as<Fuse>(id)) << id;
    EXPECT_EQ(found("fuse").size(), parts().all<Fuse>().size());
    EXPECT_EQ(found("FUSES").size(), parts().all<Fuse>().size());
}

TEST(Deciding, ARatingServesWhoAsksForLess) {
    const auto cells = found("18650 15 A");
    EXPECT_FALSE(cells.empty());
    for (const auto& id : cells) {
        const auto* cell = parts().find_as<Cell>(id);
        if (!cell) continue; // an adapter names the size as well, and no amps
        EXPECT_GE(cell->continuous.value(), 15 - 0.02) << id;
        EXPECT_EQ(cell->size, "18650");
    }
    for (const PartType* type : parts().all<Cell>()) {
        const auto& cell = std::get<Cell>(type->figures);
        const bool asked = cell.size == "18650" && cell.continuous >= Ampere(15);
        if (type->name.find("18650") != std::string::npos) {
            EXPECT_EQ(cells.contains(type->id), asked) << type->id;
        }
    }
    // The unit may be written to the number, and in thousandths.
    EXPECT_EQ(found("18650 15A"), cells);
    EXPECT_EQ(found("18650 15000 mA"), cells);
}

TEST(Deciding, AWidthIsFoundByMillimetres) {
    // A strip tells its width itself, and so does every body; the word behind the unit is left out.
    const auto ten = found("strip 10 mm");
    for (const PartType* type : parts().all<Strip>()) {
        const bool is = std::get<Strip>(type->figures).width == Millimetre(10) ||
                        type->body.width == Millimetre(10);
        EXPECT_EQ(ten.contains(type->id), is) << type->id;
    }
    EXPECT_EQ(found("speaker 28 mm"), found("speaker 28mm"));
    EXPECT_FALSE(found("speaker 28 mm").empty());
}

TEST(Deciding, WhatIsCountedIsThatManyAndNoMore) {
    const auto five = found("5 pins");
    EXPECT_TRUE(five.contains("connector.pins-5"));
    EXPECT_FALSE(five.contains("connector.pins-7"));
    EXPECT_FALSE(five.contains("connector.pins-3"));
    EXPECT_EQ(found("5 pin"), five);
}

} // namespace
} // namespace conductus::catalogue
