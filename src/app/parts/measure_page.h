// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/parts/own_shelf.h"
#include "app/shell/drawing_view.h"
#include "app/shell/fields.h"
#include "app/table/table.h"
#include "core/bench/characterise.h"

class QBoxLayout;

namespace conductus::app {

/// A part characterised: readings off the meters, the figures that fit them best with their
/// uncertainty, both drawn over each other, and a part of the shop's own made of it.
class MeasurePage : public QWidget {
    Q_OBJECT
public:
    MeasurePage(OwnShelf& shelf, const Appearance& appearance, QWidget* parent);
    /// Readings of this part. False where it is not measured.
    bool begin(const std::string& id);
    void undo();
    void redo();
    /// Reads them from a file, or writes them to one; what goes wrong is said.
    void read_file(const std::filesystem::path& file);
    void write_file(const std::filesystem::path& file);

signals:
    void closed();
    void made(const QString& id); ///< a part of the shop's own has these figures now

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    QWidget* make_readings(QWidget* parent);
    QWidget* make_found(QWidget* parent);
    void show_readings(bench::Readings readings);
    void go(std::vector<bench::Readings>& from, std::vector<bench::Readings>& to);
    void keep();
    void ask();
    /// What was found, or why nothing was; nothing: there are no readings yet.
    void show_found(const std::optional<Result<bench::Characterised>>& answer);
    /// Other readings in their place, as one step that can be undone.
    void change_to(bench::Readings next);
    void changed_from(const bench::Readings& before);
    void make_part();
    [[nodiscard]] bench::Readings whole() const; ///< without empty rows
    Result<void> type_number(const QString& typed, bool pixels);

    OwnShelf& shelf_;
    const Appearance& appearance_;
    std::string id_;
    bench::Specimen specimen_ = bench::Specimen::contact;
    DraftWriter<bench::Readings> draft_;
    std::vector<bench::Readings> before_, after_;
    std::optional<bench::Characterised> found_;
    QBoxLayout* row_;
    QLabel *title_, *how_, *said_, *notes_;
    QWidget* sizes_;
    EntryField *pixels_, *length_;
    QPushButton *undo_, *redo_, *make_;
    Table *readings_, *table_;
    DrawingView* drawing_;
};

} // namespace conductus::app
