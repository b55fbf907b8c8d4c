// SPDX-License-Identifier: GPL-3.0-or-later
// Fields and layouts that pages are made of.
#include <QLineEdit>
#include <QPushButton>
#include <QTest>
#include <QThread>
#include <atomic>
#include <gtest/gtest.h>
#include <tuple>

#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/shell/gauge_bar.h"
#include "app/shell/page_scroll.h"

#include "window.h"

namespace conductus::app {
namespace {

/// A field that takes only "yes".
struct Yes {
    int taken = 0;
    EntryField field{"agreement", [this](const QString& text) -> Result<void> {
                         if (text != "yes")
                             return problem("", "'" + text.toStdString() + "' is not yes",
                                            "Write yes");
                         ++taken;
                         return {};
                     }};
    void type(const QString& text) {
        field.line()->selectAll();
        QTest::keyClicks(field.line(), text);
        QTest::keyClick(field.line(), Qt::Key_Return);
    }
};

TEST(EntryField, KeepsWhatItRefusesAndSaysWhy) {
    Yes yes;
    yes.field.show_value("no");
    EXPECT_EQ(yes.field.line()->text(), "no");
    yes.type("maybe");
    EXPECT_EQ(yes.field.line()->text(), "maybe");
    EXPECT_TRUE(yes.field.refusal().contains("not yes"));
    EXPECT_TRUE(yes.field.line()->property("refused").toBool());
    // A change from elsewhere does not wipe it.
    yes.field.show_value("other");
    EXPECT_EQ(yes.field.line()->text(), "maybe");
    yes.type("yes");
    EXPECT_EQ(yes.taken, 1);
    EXPECT_EQ(yes.field.refusal(), "");
    EXPECT_FALSE(yes.field.line()->property("refused").toBool());
    EXPECT_EQ(yes.field.line()->text(), "other") << "shows the job's value again";
}

TEST(EntryField, LeavingItUntouchedCommitsNothing) {
    Yes yes;
    yes.field.show_value("yes");
    QTest::keyClick(yes.field.line(), Qt::Key_Return);
    EXPECT_EQ(yes.taken, 0);
}

TEST(FlowLayout, WrapsWhereTheWidthEnds) {
    QWidget widget;
    auto* flow = new FlowLayout(10, 5);
    widget.setLayout(flow);
    for (int i = 0; i < 6; ++i) {
        auto* box = new QWidget;
        box->setFixedSize(100, 20);
        flow->addWidget(box);
    }
    EXPECT_EQ(flow->heightForWidth(700), 20);
    EXPECT_EQ(flow->heightForWidth(650), 20);
    EXPECT_EQ(flow->heightForWidth(649), 45);
    EXPECT_EQ(flow->heightForWidth(210), 20 * 3 + 5 * 2);
    EXPECT_EQ(flow->heightForWidth(50), 20 * 6 + 5 * 5);
    flow->setGeometry({0, 0, 320, 100});
    EXPECT_EQ(flow->itemAt(2)->geometry(), QRect(220, 0, 100, 20));
    EXPECT_EQ(flow->itemAt(3)->geometry(), QRect(0, 25, 100, 20));
    EXPECT_EQ(flow->itemAt(9), nullptr);
    auto* taken = flow->takeAt(0);
    EXPECT_EQ(flow->count(), 5);
    delete taken->widget();
    delete taken;
}

TEST(FlowLayout, SpareWidthGoesToWhatExpands) {
    QWidget widget;
    auto* flow = new FlowLayout(10, 5);
    widget.setLayout(flow);
    auto* fixed = new QWidget;
    fixed->setFixedSize(100, 20);
    auto* line = new QLineEdit;
    flow->addWidget(fixed);
    flow->addWidget(line);
    flow->setGeometry({0, 0, 500, 40});
    EXPECT_EQ(fixed->width(), 100);
    EXPECT_EQ(line->geometry().right(), 499);
}

TEST(PageScroll, ScrollsOnlyWhereThePageDoesNotFit) {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    auto* tall = new QWidget;
    tall->setMinimumHeight(300);
    column->addWidget(tall);
    PageScroll scroll(page, nullptr);
    scroll.resize(400, 500);
    scroll.show();
    turn();
    EXPECT_EQ(page->height(), scroll.viewport()->height()) << "fills the view";
    scroll.resize(400, 200);
    turn();
    EXPECT_GE(page->height(), 300);
    EXPECT_EQ(page->width(), scroll.viewport()->width());
}

TEST(LinkButton, WrapsAndIsPressedByKeyboard) {
    Appearance appearance;
    LinkButton link("Fix: use the strip with the wide copper rails of two ounces on both sides",
                    appearance, nullptr);
    EXPECT_GT(link.heightForWidth(120), link.heightForWidth(600));
    int pressed = 0;
    QObject::connect(&link, &QAbstractButton::clicked, [&] { ++pressed; });
    QTest::keyClick(&link, Qt::Key_Space);
    QTest::mouseClick(&link, Qt::LeftButton);
    EXPECT_EQ(pressed, 2);
}

TEST(Gauge, SaysBetterAndWorseTheRightWayRound) {
    Appearance appearance;
    Gauge gauge(appearance, nullptr);
    Explained before{
        .id = "first-crackle", .label = "to first crackle", .value = 60.0, .unit = "min"};
    Explained now = before;
    now.value = 88;
    gauge.show_figure(now, &before);
    EXPECT_EQ(gauge.value_text(), QString::fromUtf8("1\u202fh\u202f28"));
    EXPECT_TRUE(gauge.change_text().startsWith("better"));
    gauge.show_figure(before, &now);
    EXPECT_TRUE(gauge.change_text().startsWith("worse"));
    Explained amps{.id = "peak-current", .label = "peak", .value = 5.0, .unit = "A"};
    Explained more = amps;
    more.value = 6;
    gauge.show_figure(more, &amps);
    EXPECT_TRUE(gauge.change_text().startsWith("worse")) << "more amperes are worse";
    gauge.show_figure(amps, &amps);
    EXPECT_EQ(gauge.change_text(), "");
    Explained none{
        .id = "dim", .label = "to dim", .value = {}, .unit = "min", .reason = "there is no cell"};
    gauge.show_figure(none, &before);
    EXPECT_EQ(gauge.value_text(), QString::fromUtf8("–"));
    EXPECT_TRUE(gauge.toolTip().contains("no cell"));
}

} // namespace
} // namespace conductus::app
