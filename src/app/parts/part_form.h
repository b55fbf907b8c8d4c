// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/parts/own_shelf.h"
#include "app/shell/drawing_view.h"
#include "app/table/table.h"
#include "core/job/part_form.h"

class QBoxLayout;
class QLabel;
class QPushButton;

namespace conductus::app {

/// All of one part type as a form: a line for each figure of its kind, with its unit and what it
/// may be. Of the shop's own parts each line can be typed, and is in the book at once: what is
/// typed at one sitting is one version.
class PartForm : public QWidget {
    Q_OBJECT
public:
    PartForm(OwnShelf& shelf, const Appearance& appearance, QWidget* parent);

    /// False where nothing is called so.
    bool show_part(const std::string& id);
    /// It has just been made as a copy: what differs from that is said, and its name comes first.
    void begin(const std::string& copied_from);
    [[nodiscard]] const std::string& id() const { return draft_.document().id; }
    void undo();
    void redo();

signals:
    void closed();
    void own_wanted(const std::string& like);
    void measuring_wanted(const std::string& id);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    QWidget* make_fields(QWidget* parent);
    QWidget* make_side(QWidget* parent);
    void follow();
    void keep(const catalogue::PartType& before);
    /// Goes to another state of it, with the one it was on the other pile.
    void go(std::vector<catalogue::PartType>& from, std::vector<catalogue::PartType>& to);
    void change(const QString& label, DraftWriter<catalogue::PartType>::Change change);
    [[nodiscard]] const job::FormField& field(int row) const {
        return form_.fields[static_cast<std::size_t>(row)];
    }
    /// The list that a field is of an element of; empty: of none.
    [[nodiscard]] std::string element_of(const job::FormField& field) const;
    [[nodiscard]] CellText beside(const job::FormField& field) const;

    OwnShelf& shelf_;
    const Appearance& appearance_;
    DraftWriter<catalogue::PartType> draft_;
    job::Form form_;
    std::optional<catalogue::PartType> compared_; ///< what it was before this sitting
    int version_ = 0;                             ///< that this sitting writes; 0: none yet
    std::vector<catalogue::PartType> before_, after_;
    std::vector<shop::OwnPart> versions_;
    QBoxLayout* row_;
    QLabel *title_, *said_, *used_;
    QPushButton *own_, *measure_, *undo_, *redo_, *take_out_;
    std::vector<QPushButton*> more_;
    QWidget* more_row_;
    Table *table_, *past_;
    DrawingView* drawing_;
};

} // namespace conductus::app
