// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/item_panel.h"

#include <QFormLayout>
#include <fmt/format.h>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/stations/brief/inspection_rows.h"
#include "app/stations/brief/picture_strip.h"
#include "core/job/lookup.h"
#include "core/job/places.h"

namespace conductus::app {

ItemPanel::ItemPanel(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("paper");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 10);
    title_ = label({}, "heading", this);
    title_->setObjectName("itemTitle");
    title_->setWordWrap(true);
    column->addWidget(title_);
    form_ = new QWidget(this);
    auto* form = new QFormLayout(form_);
    form->setContentsMargins(0, 0, 0, 0);
    form->setVerticalSpacing(5);
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);

    condition_ = word_combo<job::Condition>(this, "itemCondition", tr("Found"));
    form->addRow(tr("found"), condition_);
    reading_ = new EntryField(
        tr("Reading"), [this](const QString& t) { return take_reading(t); }, this);
    reading_->line()->setObjectName("itemReading");
    unit_ = word_combo<job::ReadingUnit>(this, "itemUnit", tr("Unit of the reading"));
    unit_->setItemText(0, tr("no unit"));
    for (int i = 1; i < unit_->count(); ++i)
        unit_->setItemText(i, unit_->itemText(i).replace("Ohm", QString::fromUtf8("Ω")));
    auto* read = new QHBoxLayout;
    read->addWidget(reading_, 1);
    read->addWidget(unit_);
    form->addRow(tr("reading"), read);
    part_ = new QComboBox(this);
    part_->setObjectName("itemPart");
    part_->setAccessibleName(tr("The part it is about"));
    part_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    part_->setMinimumContentsLength(12);
    form->addRow(tr("of part"), part_);
    feeds_ = label({}, "second", this);
    feeds_->setObjectName("itemFeeds");
    feeds_->setWordWrap(true);
    form->addRow(QString(), feeds_);
    auto text = [this](const QString& name, const char* object, const char* key) {
        auto* field = new EntryField(
            name, [this, key](const QString& typed) { return write(key, typed.left(4000)); }, this);
        field->line()->setObjectName(object);
        return field;
    };
    note_ = text(tr("Note on the item"), "itemNote", "note");
    form->addRow(tr("note"), note_);
    fate_ = word_combo<job::Fate>(this, "itemFate", tr("Kept or replaced"));
    form->addRow(tr("then"), fate_);
    why_ = text(tr("Why it is kept or replaced"), "itemWhy", "why");
    form->addRow(tr("why"), why_);
    column->addWidget(form_);
    pictures_ = new PictureStrip(context, this);
    column->addWidget(pictures_, 1);

    connect(condition_, &QComboBox::activated, this, [this](int i) {
        tell(write("condition", term(job::word(static_cast<job::Condition>(i)))));
    });
    connect(unit_, &QComboBox::activated, this, [this](int i) {
        tell(write("unit", term(job::word(static_cast<job::ReadingUnit>(i)))));
    });
    connect(fate_, &QComboBox::activated, this,
            [this](int i) { tell(write("fate", term(job::word(static_cast<job::Fate>(i))))); });
    connect(part_, &QComboBox::activated, this,
            [this](int i) { tell(write("part", part_->itemData(i).toString())); });
    connect(pictures_, &PictureStrip::added, this,
            [this](const QString& id, const files::Attachment& picture, const QString& caption) {
                if (index_ < 0) return;
                context_.session.change(label_of(),
                                        job::add_picture(static_cast<std::size_t>(index_),
                                                         {id.toStdString(), caption.toStdString()}),
                                        {{id.toStdString(), picture}});
            });
    connect(pictures_, &PictureStrip::removed, this, [this](int at) {
        if (index_ < 0) return;
        context_.session.change(
            label_of(), job::take_out_at(fmt::format("/inspection/{}/pictures/{}", index_, at)));
    });
}

QString ItemPanel::label_of() const {
    const auto& items = context_.session.job().inspection;
    return tr("Inspect %1").arg(words(items[static_cast<std::size_t>(index_)].item));
}

Result<void> ItemPanel::write(const char* key, const QString& typed) {
    if (index_ < 0) return {};
    return context_.session.edit(
        label_of(),
        job::write_at(fmt::format("/inspection/{}/{}", index_, key), typed.toStdString()));
}

void ItemPanel::tell(const Result<void>& done) {
    if (!done) emit context_.session.refused(label_of(), done.error());
}

Result<void> ItemPanel::take_reading(const QString& typed) {
    if (index_ < 0) return {};
    return context_.session.edit(
        label_of(), job::take_reading(static_cast<std::size_t>(index_), typed.toStdString()));
}

void ItemPanel::show_item(int index) {
    const auto& items = context_.session.job().inspection;
    index_ = index < static_cast<int>(items.size()) ? index : -1;
    form_->setVisible(index_ >= 0);
    pictures_->setVisible(index_ >= 0);
    if (index_ < 0) {
        title_->setText(tr("Lay out the checklist of this kind of job, go down it with the arrow "
                           "keys, and press the letter of what you find."));
        return;
    }
    const job::Inspected& item = items[static_cast<std::size_t>(index_)];
    title_->setText(QString::fromStdString(item.item));
    condition_->setCurrentIndex(static_cast<int>(item.condition));
    reading_->show_value(item.reading ? QString::number(*item.reading) : QString());
    unit_->setCurrentIndex(static_cast<int>(item.unit));
    fate_->setCurrentIndex(static_cast<int>(item.fate));
    note_->show_value(QString::fromStdString(item.note));
    why_->show_value(QString::fromStdString(item.why));
    for (EntryField* field : {note_, why_})
        if (!field->line()->hasFocus()) field->line()->setCursorPosition(0);
    part_->clear();
    part_->addItem(tr("none"), QString());
    for (const job::Part& part : context_.session.job().parts)
        part_->addItem(QString("%1, %2").arg(
                           QString::fromStdString(part.ref),
                           QString::fromStdString(context_.session.parts().find(part.type)->name)),
                       QString::fromStdString(part.ref));
    part_->setCurrentIndex(std::max(0, part_->findData(QString::fromStdString(item.part))));
    const job::Part* part = job::find_ref(context_.session.job().parts, item.part);
    const bool ohms = item.unit == job::ReadingUnit::ohm || item.unit == job::ReadingUnit::milliohm;
    const bool feeds = part && item.reading && item.fate != job::Fate::replaced &&
                       (ohms ? part->measured.resistance.has_value()
                             : item.unit == job::ReadingUnit::milliampere_hour &&
                                   part->measured.capacity.has_value());
    feeds_->setVisible(feeds);
    if (feeds)
        feeds_->setText(tr("%1 is planned with: it overrides the catalogue for %2")
                            .arg(reading_text(item), QString::fromStdString(item.part)));
    pictures_->show_pictures(item.pictures);
}

} // namespace conductus::app
