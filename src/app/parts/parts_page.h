// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStackedWidget>
#include <filesystem>

#include "app/parts/own_shelf.h"
#include "app/session/appearance.h"
#include "app/shell/drawing_view.h"
#include "app/table/table.h"

class QBoxLayout;
class QComboBox;
class QLabel;
class QPushButton;

namespace conductus::app {

class MeasurePage;
class PartForm;
class PartSearch;

/// The parts of the shop, as a place on the shelf: every kind's parts as a table, the shop's own
/// beside the shipped; one of them as a form; one of them characterised from readings.
class PartsPage : public QStackedWidget {
    Q_OBJECT
public:
    PartsPage(CataloguePtr given, const Appearance& appearance, QWidget* parent);

    /// Shows the parts of a book. What is wrong with it is said in place of them.
    void read(const std::filesystem::path& book);
    /// Reads them again where the book was changed by another hand.
    void follow();
    [[nodiscard]] OwnShelf& shelf() { return shelf_; }

    void show_list();
    /// Opens a part's form. Nothing is called so: false.
    bool open(const std::string& id);
    /// A part of the shop's own, copied from another, and its form.
    void make_own(std::string like);
    void measure(const std::string& id);
    void undo();
    void redo();
    void focus_words();
    /// Takes parts in from a file, or writes the shop's own to one; what comes of it is said.
    void take_in(const std::filesystem::path& file);
    void write_out(const std::filesystem::path& file);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    QWidget* make_list(QWidget* parent);
    QWidget* make_side(QWidget* parent);
    void find();
    void follow_chosen();
    void drop_chosen();
    void say(const QString& text, bool refused = false);
    [[nodiscard]] const catalogue::PartType* chosen() const;
    [[nodiscard]] const catalogue::PartType& type_in(int row) const;
    [[nodiscard]] std::vector<std::string> ids_to_write() const;

    OwnShelf shelf_;
    const Appearance& appearance_;
    QBoxLayout* row_;
    QWidget* list_;
    /// What scrolls where a page is higher than the view.
    QWidget *list_scroll_, *form_scroll_, *measuring_scroll_;
    PartSearch* search_;
    QComboBox* whose_;
    Table* table_;
    DrawingView* drawing_;
    QLabel *name_, *facts_, *said_;
    QPushButton *own_, *open_, *measure_, *drop_, *in_, *out_;
    PartForm* form_;
    MeasurePage* measuring_;
    std::vector<std::string> found_;
    std::vector<catalogue::PartType> dropped_; ///< in this sitting, the last at the end
};

} // namespace conductus::app
