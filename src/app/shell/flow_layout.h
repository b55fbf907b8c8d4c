// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QLabel>
#include <QLayout>
#include <vector>

namespace conductus::app {

/// Widgets side by side, wrapped onto as many lines as the width needs; a line's spare width goes
/// to the widgets that expand.
class FlowLayout : public QLayout {
public:
    FlowLayout(int across, int down) : across_(across), down_(down) {
        setContentsMargins(0, 0, 0, 0);
    }
    ~FlowLayout() override;

    void addItem(QLayoutItem* item) override { items_.push_back(item); }
    [[nodiscard]] int count() const override { return static_cast<int>(items_.size()); }
    [[nodiscard]] QLayoutItem* itemAt(int i) const override;
    QLayoutItem* takeAt(int i) override;
    [[nodiscard]] Qt::Orientations expandingDirections() const override { return {}; }
    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override {
        return place({0, 0, width, 0}, false);
    }
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSize() const override;
    void setGeometry(const QRect& box) override;

private:
    int place(const QRect& box, bool really) const;
    std::vector<QLayoutItem*> items_;
    int across_, down_;
};

/// Words in a flow: on one line where there is room, else on a line of their own, wrapped.
class FlowText : public QLabel {
    Q_OBJECT
public:
    explicit FlowText(QWidget* parent);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {40, 0}; }
};

/// A caption, a field and a unit that stay together in a flow.
QWidget* grouped(const QString& caption, QWidget* field, const QString& unit, QWidget* parent);

} // namespace conductus::app
