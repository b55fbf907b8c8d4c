// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/catalogue/catalogue.h"

#include <numbers>

#include "files/catalogue_json.h"
#include "support/fixtures.h"

namespace conductus {
namespace {

using namespace test;

struct CellRow {
    const char* id;
    double d, l, mAh, amps, mOhm, g;
};

class CellTable : public testing::TestWithParam<CellRow> {};

TEST_P(CellTable, HasTheFiguresOfItsClass) {
    const CellRow row = GetParam();
    const auto* type = parts().find(row.id);
    ASSERT_TRUE(type);
    const auto* cell = parts().find_as<catalogue::Cell>(row.id);
    ASSERT_TRUE(cell);
    EXPECT_EQ(type->body.diameter, Millimetre(row.d));
    EXPECT_EQ(type->body.length, Millimetre(row.l));
    EXPECT_EQ(cell->capacity, MilliAmpereHour(row.mAh));
    EXPECT_EQ(cell->continuous, Ampere(row.amps));
    EXPECT_NEAR(cell->resistance.value(), row.mOhm / 1e3, 1e-12);
    EXPECT_EQ(type->mass, Gram(row.g));
    // To the air of the hilt through its whole surface, 6 W/m²K.
    const double area = std::numbers::pi * row.d * (row.l + row.d / 2) * 1e-6;
    EXPECT_NEAR(type->thermal.value(), 1 / (6 * area), 0.1);
}

INSTANTIATE_TEST_SUITE_P(
    All, CellTable,
    testing::Values(CellRow{"cell.14500", 14.3, 50, 800, 5, 60, 20},
                    CellRow{"cell.18350", 18.3, 35, 1100, 10, 35, 25},
                    CellRow{"cell.18500", 18.3, 50, 2000, 10, 30, 34},
                    CellRow{"cell.18650-capacity", 18.5, 65.2, 3500, 8, 35, 48},
                    CellRow{"cell.18650-power", 18.5, 65.2, 3000, 15, 20, 47},
                    CellRow{"cell.20700", 20.3, 70.2, 4000, 25, 15, 63},
                    CellRow{"cell.21700-capacity", 21.2, 70.2, 5000, 12, 22, 70},
                    CellRow{"cell.21700-power", 21.2, 70.2, 4000, 30, 12, 70},
                    CellRow{"cell.26650", 26.2, 65.5, 5500, 15, 25, 95}));

TEST(Catalogue, HasEveryKindAJobNeeds) {
    EXPECT_GE(parts().all<catalogue::Protection>().size(), 2u);
    EXPECT_GE(parts().all<catalogue::Board>().size(), 2u);
    EXPECT_GE(parts().all<catalogue::Speaker>().size(), 3u);
    EXPECT_GE(parts().all<catalogue::Kill>().size(), 4u);
    EXPECT_GE(parts().all<catalogue::Button>().size(), 2u);
    EXPECT_GE(parts().all<catalogue::Connector>().size(), 3u);
    EXPECT_GE(parts().all<catalogue::Strip>().size(), 5u);
    EXPECT_EQ(parts().all<catalogue::Pixel>().size(), 4u);
}

TEST(Catalogue, EveryTypeIsWhole) {
    for (const auto& id : parts().ids()) {
        const auto* type = parts().find(id);
        EXPECT_FALSE(type->name.empty()) << id;
        EXPECT_EQ(type->terminals.empty(), parts().find_as<catalogue::Spacer>(id) != nullptr) << id;
        EXPECT_GT(type->mass.value(), 0) << id;
        EXPECT_GT(type->body.length.value(), 0) << id;
    }
}

TEST(Catalogue, PixelClassesOfTheModels) {
    const auto* bright = parts().find_as<catalogue::Pixel>("pixel.rgb-5050-bright");
    ASSERT_TRUE(bright);
    EXPECT_EQ(bright->channels.size(), 3u);
    EXPECT_EQ(bright->channels[1].full, Ampere(0.018));
    EXPECT_EQ(bright->knee, Volt(0.5));
    const auto* white = parts().find_as<catalogue::Pixel>("pixel.rgbw-5050");
    ASSERT_EQ(white->channels.size(), 4u);
    EXPECT_EQ(white->channels[3].on, Volt(2.85));
}

TEST(Catalogue, RefusesTwiceAndUnknownPixels) {
    catalogue::Catalogue c;
    catalogue::PartType strip;
    strip.id = "strip.x";
    strip.figures = catalogue::Strip{"pixel.none", PerMetre(144), OhmPerMetre(0.1), Millimetre(10)};
    EXPECT_FALSE(c.add(strip));
    catalogue::PartType kill;
    kill.id = "kill.x";
    kill.figures = catalogue::Kill{};
    EXPECT_TRUE(c.add(kill));
    const auto twice = c.add(kill);
    ASSERT_FALSE(twice);
    EXPECT_EQ(twice.error().where, "kill.x");
    EXPECT_EQ(parts().nearest("cell.18650-powr"), "cell.18650-power");
}

TEST(CatalogueFiles, RefuseWhatIsWrongWithPointerAndRemedy) {
    TemporaryFolder folder;
    const std::string good = read_file(source_dir() / "data/catalogue/kills.json");
    auto refused = [&](const std::string& text) {
        write_file(folder / "kills.json", text);
        auto r = files::read_catalogue(folder.path());
        EXPECT_FALSE(r);
        return r ? Problem{} : r.error();
    };
    auto changed = [&](const std::string& a, const std::string& b) {
        std::string t = good;
        EXPECT_NE(t.find(a), std::string::npos) << a;
        return t.replace(t.find(a), a.size(), b);
    };
    EXPECT_NE(refused(changed("\"kind\": \"kill\"", "\"kind\": \"kil\"")).text().find("not a kind"),
              std::string::npos);
    EXPECT_NE(refused(changed("rating_A", "rating_mA")).text().find("rating_A"), std::string::npos);
    EXPECT_NE(refused(changed("\"contact_Ohm\": 0.03", "\"contact_Ohm\": -1"))
                  .where.find("/parts/0/kill/contact_Ohm"),
              std::string::npos);
    EXPECT_FALSE(refused("[]").text().empty());
    EXPECT_FALSE(files::read_catalogue(folder / "nowhere"));
}

} // namespace
} // namespace conductus
