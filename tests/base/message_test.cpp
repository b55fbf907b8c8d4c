// SPDX-License-Identifier: GPL-3.0-or-later
// Messages: ids with arguments, put into words in one place.
#include <map>

#include "core/base/message.h"
#include "core/plan/plan.h"
#include "support/fixtures.h"

namespace conductus {
namespace {

using namespace test;

TEST(Messages, AreSaidInEnglishWithTheirArgumentsInOrder) {
    const Message m = say("{} carries {}, rated {}", "K1", text(Ampere(5.84)), text(Ampere(5)));
    EXPECT_EQ(m.id(), "{} carries {}, rated {}");
    EXPECT_EQ(m.arguments().size(), 3u);
    EXPECT_EQ(m, "K1 carries 5.84\u202fA, rated 5\u202fA");
    EXPECT_EQ(Message("no cell is fitted"), "no cell is fitted");
    EXPECT_TRUE(Message().empty());
    EXPECT_TRUE(Message(std::string()).empty());
    EXPECT_EQ(say("{} and {}", 3, std::size_t{4}), "3 and 4");
}

TEST(Messages, ATranslationMayTurnTheArgumentsRound) {
    const std::map<std::string_view, std::string> other{{"{} is on {}", "{1} traegt {0}"},
                                                        {"the plus of {}", "Plus von {}"}};
    const auto translate = [&](std::string_view id) {
        const auto it = other.find(id);
        return it == other.end() ? std::string() : it->second;
    };
    // Messages within messages are translated, names are not.
    const Message m =
        say("{} is on {}", say("the plus of {}", "B1"), std::string("the plus of {}"));
    EXPECT_EQ(m, "the plus of B1 is on the plus of {}");
    EXPECT_EQ(m.in(translate), "the plus of {} traegt Plus von B1");
    EXPECT_EQ(say("{} is off", "L1").in(translate), "L1 is off") << "English stands";
}

TEST(Messages, WhatSomebodyWroteIsSaidAsItIsWritten) {
    const std::string odd = "a {} name {0} with braces";
    EXPECT_EQ(Message(odd), odd);
    EXPECT_EQ(say("look {}", odd), "look " + odd);
    EXPECT_EQ(Message(odd).in([](std::string_view) { return std::string("translated"); }), odd);
}

TEST(Messages, AreJoined) {
    EXPECT_EQ(joined(std::vector<Message>{"a", say("b{}", 1), "c"}, "; "), "a; b1; c");
    EXPECT_TRUE(joined(std::vector<Message>{}, "; ").empty());
    EXPECT_EQ(joined(std::vector<std::string>{"W1", "W2"}, ", "), "W1, W2");
}

/// Visits a message and those within it.
template <class Visit>
void each_message(const Message& m, Visit&& visit) {
    if (!m.empty()) visit(m);
    for (const Message& inner : m.arguments())
        each_message(inner, visit);
}

TEST(Messages, TheTextsOfFindingsAreIdsAndNoWordsPutTogetherElsewhere) {
    // A text whose id holds what is the job's own could not be translated: ids name no refs, looks
    // or numbers of the job.
    int texts = 0;
    for (const char* name : {"heron", "bittern", "avocet", "curlew", "dunlin", "godwit"}) {
        const plan::Plan plan = plan_of(demo(name));
        for (const findings::Finding& f : plan.findings)
            for (const Message* m : {&f.text, &f.detail, f.fix ? &f.fix->text : &f.text}) {
                if (m->empty()) continue;
                ++texts;
                EXPECT_NE(m->id(), "{}") << f.id << ": " << *m;
                for (const std::string& where : f.where) {
                    if (where.size() < 2) continue;
                    EXPECT_EQ(m->id().find(where), std::string_view::npos)
                        << f.id << ": " << m->id();
                }
                each_message(*m, [&](const Message& part) { EXPECT_FALSE(part.id().empty()); });
            }
        for (const Explained& e : plan.figures)
            for (const Message* m : {&e.reason, &e.formula})
                if (!m->empty()) {
                    EXPECT_NE(m->id(), "{}") << e.id << ": " << *m;
                }
    }
    EXPECT_GT(texts, 50);
}

} // namespace
} // namespace conductus
